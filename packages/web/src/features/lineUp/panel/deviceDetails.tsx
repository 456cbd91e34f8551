import { kindsOf, restartRules, waysOfSetting } from '@calm/core/kind'
import { schoolOf, schools, settingOf, type Device, type Job } from '@calm/core/job'
import { cellChanges, deviceColumn, type DeviceColumnId } from '@calm/core/lineUp'
import { Play, Trash2 } from 'lucide-react'
import type { ReactNode } from 'react'
import { Link } from 'react-router'
import { newId } from '../../../api'
import { Choice, Editable, Button, button } from '../../../ui'
import { DeviceNames } from './deviceNames'
import { DeviceNodes } from './deviceNodes'
import { DevicePorts } from './devicePorts'
import { KindFacts } from './kindFactsView'
import type { LineUp } from '../useLineUp'

interface DetailsProps {
  readonly job: Job
  readonly device: Device
  readonly lineUp: LineUp
  readonly onRemove: () => void
}

interface DetailRow {
  readonly id: DeviceColumnId
  readonly name: string
  /** How it is called with the tag after it. */
  readonly label: string
  readonly blank: string
}

const portRows: readonly DetailRow[] = [
  { id: 'mask', name: 'Subnet mask', label: 'Subnet mask of', blank: 'as its network' },
  { id: 'gateway', name: 'Gateway', label: 'Gateway of', blank: 'none' },
  { id: 'mac', name: 'MAC address', label: 'Hardware address of', blank: 'not read yet' },
  { id: 'tcpPort', name: 'TCP port', label: 'TCP port of', blank: '502' },
]
const ownRows: readonly DetailRow[] = [
  { id: 'textPort', name: 'Text port', label: 'Text port of', blank: 'none' },
  { id: 'place', name: 'Place', label: 'Place of', blank: 'not said' },
  { id: 'isolation', name: 'Breaker', label: 'Breaker of', blank: 'not said' },
  { id: 'hostName', name: 'Host name', label: 'Host name of', blank: 'none' },
  { id: 'orderCode', name: 'Order code', label: 'Order code of', blank: 'not known' },
  { id: 'orderCodeFound', name: 'Label says', label: 'Label of', blank: 'not read yet' },
  { id: 'serialNumber', name: 'Serial number', label: 'Serial number of', blank: 'not read yet' },
  { id: 'firmwareFound', name: 'Firmware', label: 'Firmware found at', blank: 'not read yet' },
  { id: 'firmwareNeeded', name: 'Needed', label: 'Firmware needed at', blank: 'does not matter' },
  { id: 'note', name: 'Note', label: 'Note on', blank: 'none' },
]

/** What the table has no room for. */
export function DeviceDetails({ job, device, lineUp, onRemove }: DetailsProps) {
  const [port] = device.ports
  const setting = settingOf(job, device)
  return (
    <section
      className="mt-4.5 grid grid-cols-[minmax(0,1fr)] gap-2.5 border-t border-rule-strong pt-3.5"
      aria-label={`More of ${device.tag}`}
    >
      <h3>{device.tag} in detail</h3>
      <dl className="grid grid-cols-[92px_minmax(0,1fr)] items-center gap-x-2.5 gap-y-1 text-row">
        <ChoiceRow
          name="Kind"
          label={`Kind of ${device.tag}`}
          value={device.kind}
          choices={kindsOf(job.kinds).map(({ id, name }) => ({ value: id, label: name }))}
          onChange={(kind) => lineUp.attempt(lineUp.editDevice(device, { kind }))}
        />
        {port && (
          <>
            <ChoiceRow
              name="Network"
              label={`Network of ${device.tag}`}
              value={port.networkId ?? ''}
              choices={[
                { value: '', label: 'none yet' },
                ...job.networks.map((network) => ({ value: network.id, label: network.name })),
              ]}
              onChange={(networkId) =>
                lineUp.attempt(lineUp.editPort(device, port, { networkId: networkId === '' ? null : networkId }))
              }
            />
            {portRows.map((row) => (
              <Detail key={row.id} row={row} job={job} device={device} lineUp={lineUp} />
            ))}
            <ChoiceRow
              name="Lives in"
              label={`Where the address of ${device.tag} lives`}
              value={port.school ?? ''}
              choices={[
                {
                  value: '',
                  label: `${schools[schoolOf(job, { ...port, school: null })].name} (network)`,
                },
                ...Object.entries(schools).map(([value, facts]) => ({ value, label: facts.name })),
              ]}
              onChange={(school) =>
                lineUp.attempt(
                  lineUp.editPort(device, port, { school: school === '' ? null : (school as keyof typeof schools) }),
                )
              }
            >
              {port.school !== null && (
                <p className="text-row text-ink-soft">{schools[port.school].consequences.join(' ')}</p>
              )}
            </ChoiceRow>
          </>
        )}
        {ownRows.map((row) => (
          <Detail key={row.id} row={row} job={job} device={device} lineUp={lineUp} />
        ))}
        <ChoiceRow
          name="Set by"
          label={`Way of setting of ${device.tag}`}
          value={device.setting ?? ''}
          choices={[
            { value: '', label: `${waysOfSetting[setting.way].name} (kind)` },
            ...Object.entries(waysOfSetting).map(([value, facts]) => ({ value, label: facts.name })),
          ]}
          onChange={(way) =>
            lineUp.attempt(
              lineUp.editDevice(device, { setting: way === '' ? null : (way as keyof typeof waysOfSetting) }),
            )
          }
        />
        <ChoiceRow
          name="In force after"
          label={`What makes a setting of ${device.tag} effective`}
          value={device.effective ?? ''}
          choices={[
            { value: '', label: `${restartRules[setting.effective].name} (kind)` },
            ...Object.entries(restartRules).map(([value, facts]) => ({ value, label: facts.name })),
          ]}
          onChange={(rule) =>
            lineUp.attempt(
              lineUp.editDevice(device, { effective: rule === '' ? null : (rule as keyof typeof restartRules) }),
            )
          }
        />
        <Detail
          row={{
            id: 'startUp',
            name: 'Starts in, s',
            label: 'Start-up time of',
            blank: String(setting.startUpSeconds),
          }}
          job={job}
          device={device}
          lineUp={lineUp}
        />
        <Detail
          row={{ id: 'handsOn', name: 'Hands-on, s', label: 'Hands-on time of', blank: String(setting.handsOnSeconds) }}
          job={job}
          device={device}
          lineUp={lineUp}
        />
      </dl>
      <DevicePorts job={job} device={device} lineUp={lineUp} />
      <DeviceNodes job={job} device={device} lineUp={lineUp} />
      <DeviceNames device={device} lineUp={lineUp} />
      <KindFacts job={job} kind={device.kind} />
      <div className="grid justify-items-start">
        <Link className={button({ look: 'plain' })} to={`/jobs/${job.id}/first-contact?begin=${device.id}`}>
          <Play size={15} aria-hidden /> Begin a run: restart, reset, restore
        </Link>
        <Button look="plain" onClick={onRemove}>
          <Trash2 size={15} aria-hidden /> Remove {device.tag}
        </Button>
      </div>
    </section>
  )
}

interface ChoiceRowProps {
  readonly name: string
  /** How it is called for whoever does not see the row. */
  readonly label: string
  readonly value: string
  readonly choices: readonly { readonly value: string; readonly label: string }[]
  readonly onChange: (value: string) => void
  readonly children?: ReactNode
}

/** One fact that is chosen from a list. */
function ChoiceRow({ name, children, ...choice }: ChoiceRowProps) {
  return (
    <>
      <dt className="note">{name}</dt>
      <dd>
        <Choice hideLabel size="small" {...choice} />
        {children}
      </dd>
    </>
  )
}

interface DetailProps {
  readonly row: DetailRow
  readonly job: Job
  readonly device: Device
  readonly lineUp: LineUp
}

/** One fact, edited where it stands, as in the table. */
function Detail({ row, job, device, lineUp }: DetailProps) {
  const column = deviceColumn(row.id)
  const text = column.text(device, job)
  return (
    <>
      <dt className="note">{row.name}</dt>
      <dd>
        <Editable
          typed={column.typed}
          label={`${row.label} ${device.tag}`}
          text={text}
          spoken={text || row.blank}
          shown={
            text === '' ? (
              <span className="text-ink-soft">{row.blank}</span>
            ) : (
              <span className="font-typed font-medium">{text}</span>
            )
          }
          read={(typed) => column.read(typed, job, device)}
          onSave={async (typed) => {
            const reading = column.read(typed, job, device)
            if (reading.ok)
              await lineUp.change(`${device.tag} changed.`, cellChanges(job, device, reading.value, newId))
          }}
        />
      </dd>
    </>
  )
}
