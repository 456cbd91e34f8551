import { formatIpv4, laptopAddresses } from '@calm/core/address'
import { type Job, ladderFor, waitsFor } from '@calm/core/job'
import { proposeAddress } from '@calm/core/lineUp'
import { useMemo } from 'react'
import { Link } from 'react-router'
import { useLaptop } from '../../../api'
import { Glyph, Problems, button, Button } from '../../../ui'
import { controllersOf, useBeginHandshake } from '../../handshake'
import { busiestNetwork } from '../busiestNetwork'
import { DeviceDetails } from './deviceDetails'
import { FindingView } from '../findings'
import type { Dialogs } from '../dialogs'
import type { DeviceLine } from '../table'
import type { LineUp } from '../useLineUp'

/** About the chosen line: what is found, the way out, and what the table has no room for. */
export function SidePanel({
  job,
  line,
  lineUp,
  dialogs,
  onRemove,
}: {
  job: Job
  line: DeviceLine | undefined
  lineUp: LineUp
  dialogs: Dialogs
  onRemove: () => void
}) {
  // With nothing chosen the table has the room.
  if (!line) return null
  const serious = line.findings.filter((finding) => finding.severity !== 'worth-knowing')
  const notes = line.findings.filter((finding) => finding.severity === 'worth-knowing')
  const handshake = job.handshakes.find((each) => each.deviceId === line.device.id)
  return (
    <aside
      className="w-65 min-w-0 overflow-auto bg-ground px-4.5 py-4 [grid-area:side]"
      aria-label="About the chosen line"
    >
      {[...serious, ...notes].map((finding) => (
        <FindingView
          key={finding.rule + finding.subject.id}
          finding={finding}
          onFix={(fix) => lineUp.attempt(lineUp.applyFix(fix))}
          onAccept={(reason) => lineUp.attempt(lineUp.accept([finding], reason))}
        />
      ))}
      {line.findings.length === 0 && (
        <>
          <h2 className="mt-1 mb-1.5">{line.device.tag}</h2>
          <p className="text-row">
            {line.device.ports[0]?.address
              ? 'Nothing in the plan speaks against its address.'
              : 'It has no planned address.'}
          </p>
        </>
      )}
      <WaitsFor job={job} line={line} dialogs={dialogs} />
      <ProposeAction job={job} line={line} lineUp={lineUp} />
      <p className="mt-3 flex flex-wrap gap-2 text-row">
        {handshake ? (
          <>
            <Link className={button({ look: 'plain' })} to={`/jobs/${job.id}/terms/${handshake.id}`}>
              Terms
            </Link>
            <Link className={button({ look: 'plain' })} to={`/jobs/${job.id}/proof/${handshake.id}`}>
              Proof
            </Link>
          </>
        ) : (
          <BeginHandshake job={job} line={line} />
        )}
      </p>
      <DeviceDetails key={line.device.id} job={job} device={line.device} lineUp={lineUp} onRemove={onRemove} />
    </aside>
  )
}

/** What the device waits for from others; asking is one press away. */
function WaitsFor({ job, line, dialogs }: { job: Job; line: DeviceLine; dialogs: Dialogs }) {
  const open = waitsFor(job, line.device.id)
  return (
    <div className="mt-3 grid gap-2">
      {open.map((request) => (
        <p key={request.id} className="flex items-center gap-1.75 text-row font-firm">
          <Glyph state="waiting" size={15} />
          <Button look="plain" onClick={() => dialogs.open({ kind: 'request', request })}>
            Waits for: {request.what}
          </Button>
        </p>
      ))}
      <div>
        <Button look="plain" onClick={() => dialogs.open({ kind: 'request', deviceIds: [line.device.id] })}>
          Ask somebody about {line.device.tag}
        </Button>
      </div>
    </div>
  )
}

/** A free address, with the reasons that make it one. */
function ProposeAction({ job, line, lineUp }: { job: Job; line: DeviceLine; lineUp: LineUp }) {
  const laptop = useLaptop()
  const [port] = line.device.ports
  const networkId = port?.networkId ?? busiestNetwork(job)
  const open = port !== undefined && port.address === null && networkId !== undefined
  const proposal = useMemo(
    () =>
      open && networkId
        ? proposeAddress(job, networkId, line.device.kind, laptopAddresses(laptop.data ?? []), ladderFor)
        : undefined,
    [open, networkId, job, line.device.kind, laptop.data],
  )
  if (!open || !port) return null
  if (!proposal) return <p className="note">Every address of its network is taken.</p>
  const text = formatIpv4(proposal.address)
  return (
    <div className="mt-3 grid gap-2">
      <Button
        look="act"
        wide
        data-fix
        onClick={() =>
          lineUp.attempt(lineUp.editPort(line.device, port, { address: text, networkId: networkId ?? null }))
        }
      >
        Plan {text} for {line.device.tag}
      </Button>
      <ul className="note">
        {proposal.reasons.map((reason) => (
          <li key={reason}>– {reason}</li>
        ))}
      </ul>
    </div>
  )
}

function BeginHandshake({ job, line }: { job: Job; line: DeviceLine }) {
  const { begin, problem } = useBeginHandshake(job)
  const controllers = controllersOf(job).filter((device) => device.id !== line.device.id)
  if (controllers.length === 0 || controllersOf(job).includes(line.device)) return null
  return (
    <>
      {controllers.slice(0, 3).map((controller) => (
        <Button
          key={controller.id}
          wide
          onClick={() => begin({ controllerId: controller.id, deviceId: line.device.id })}
        >
          Begin handshake with {controller.tag}
        </Button>
      ))}
      <Problems reason={problem} />
    </>
  )
}
