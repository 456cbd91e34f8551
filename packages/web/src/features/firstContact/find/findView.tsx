import { laptopIsIn, presentOf, sweepBounds, sweepSeconds } from '@calm/core/procedure'
import { formatSubnet, hostCount, parseSubnet, subnetOf } from '@calm/core/address'
import { useMemo, useState } from 'react'
import type { UnitsFound } from '@calm/contract/api'
import { useSweep } from '../../../api'
import { Choice, Glyph, Problems, Progress, Button } from '../../../ui'
import { Listen } from './listen'
import { SweepTable } from './sweepTable'
import { WhichBox } from './whichBox'
import type { ViewProps } from '../viewProps'

/** Who is there: a bounded search, units behind a gateway, whom the laptop has heard, and which box is which. */
export function FindView(props: ViewProps) {
  const { job, record, acts, laptop } = props
  const sweep = useSweep(job.id)
  const [problem, setProblem] = useState<unknown>(undefined)
  const [which, setWhich] = useState('')
  const subnets = useMemo(
    () => [
      ...new Set([
        ...job.networks.map((network) => network.cidr),
        ...job.devices.flatMap((device) => {
          const present = presentOf(job, record, device)
          return present ? [formatSubnet(subnetOf(present.address, present.prefix))] : []
        }),
      ]),
    ],
    [job, record],
  )
  const near = subnets.find((subnet) => laptop && laptopIsIn(laptop, subnet))
  const [chosen, setCidr] = useState<string | undefined>(undefined)
  const cidr = chosen ?? near ?? subnets[0] ?? ''
  const subnet = cidr === '' ? undefined : parseSubnet(cidr)
  const hosts = subnet?.ok ? hostCount(subnet.value) : 0
  const running = sweep.data && !sweep.data.done
  const begin = () => {
    setProblem(undefined)
    acts.sweep(cidr).catch(setProblem)
  }
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_300px] content-start gap-x-8 overflow-y-auto px-6 pt-4 pb-8 max-laptop:grid-cols-1">
      <div className="grid content-start gap-6">
        <Listen job={job} record={record} acts={acts} laptop={laptop} onWhich={setWhich} />
        <section aria-label="Search">
          <h2>Who answers</h2>
          <p className="note">
            {hosts > 0 &&
              `${hosts} hosts, ports ${sweepBounds.ports.join(' and ')} of each, at most ${sweepBounds.perSecond} connections a second: ${sweepSeconds(hosts)} s at least. `}
            Nothing is written. Each that answers is set against the plan, and can become a device of it.
          </p>
          <div className="my-2 flex flex-wrap items-end gap-x-4.5 gap-y-3">
            <Choice
              label="Search in"
              value={cidr}
              choices={subnets.map((value) => ({ value, label: value }))}
              onChange={setCidr}
            />
            <Button look="act" disabled={running === true || cidr === ''} onClick={begin}>
              Search
            </Button>
            {running && <Button onClick={() => void acts.stopSweep().catch(setProblem)}>Stop</Button>}
            <p className="note" role="status">
              {running && `${sweep.data?.looked} of ${sweep.data?.total} looked at`}
              {sweep.data?.done &&
                `${sweep.data.cidr}: ${sweep.data.looked} of ${sweep.data.total} hosts in ${(sweep.data.milliseconds / 1000).toFixed(1)} s, ${sweep.data.packetsPerSecond} connections a second`}
            </p>
          </div>
          {running && sweep.data && (
            <Progress label="Hosts looked at" value={sweep.data.looked} of={sweep.data.total} />
          )}
          {laptop && cidr !== '' && !laptopIsIn(laptop, cidr) && (
            <p className="flex items-center gap-2 text-lead text-odds">
              <Glyph state="at-odds" size={16} /> The laptop is not in {cidr}: who is silent there may be there all the
              same.
            </p>
          )}
          <Problems reason={problem} />
          {sweep.data?.done && <SweepTable job={job} lines={sweep.data.lines} />}
        </section>
        <WhichBox key={which} {...props} start={which} />
        <Units {...props} />
      </div>
      <aside className="content-start border-l border-rule pl-5 max-laptop:border-l-0 max-laptop:pl-0">
        <section aria-label="Neighbour table">
          <h2>Whom this laptop has heard</h2>
          <p className="note">Its own table of neighbours; looked at, nobody is asked.</p>
          {laptop?.neighbours === null && <p className="note">{laptop.notes.join(' ')}</p>}
          <ul>
            {laptop?.neighbours?.map((each) => (
              <li
                key={`${each.address}${each.hardwareAddress}`}
                className="flex justify-between gap-3 py-0.5 font-typed text-note whitespace-nowrap"
              >
                <span>{each.address}</span> <span className="text-ink-soft">{each.hardwareAddress}</span>
              </li>
            ))}
            {laptop?.neighbours?.length === 0 && <li className="note">Nobody yet.</li>}
          </ul>
        </section>
      </aside>
    </div>
  )
}

/** Unit ids behind a gateway, a few at a time. */
function Units({ job, acts }: ViewProps) {
  const gateways = job.devices.filter((device) => job.devices.some((each) => each.behindId === device.id))
  const [gateway, setGateway] = useState(gateways[0]?.id ?? '')
  const [found, setFound] = useState<UnitsFound | undefined>(undefined)
  const [problem, setProblem] = useState<unknown>(undefined)
  const [busy, setBusy] = useState(false)
  if (gateways.length === 0) return null
  const ask = async () => {
    setBusy(true)
    setProblem(undefined)
    await acts.units(gateway, 1, 16).then(setFound, setProblem)
    setBusy(false)
  }
  return (
    <section aria-label="Units behind a gateway">
      <h2>Units behind</h2>
      <p className="note">Unit ids behind a gateway, one after the other: each silent one takes its time.</p>
      <div className="my-2 flex flex-wrap items-end gap-x-4.5 gap-y-3">
        <Choice
          label="Gateway"
          value={gateway}
          choices={gateways.map((device) => ({ value: device.id, label: device.tag }))}
          onChange={setGateway}
        />
        <Button disabled={busy} onClick={() => void ask()}>
          Ask units 1 to 16
        </Button>
        <p className="note">{busy ? 'One after the other, at most 30 s.' : found ? unitsWords(found) : ''}</p>
      </div>
      <Problems reason={problem} />
      <ul>
        {found?.units.map(({ unit, identity }) => (
          <li key={unit}>
            <b>{unit}</b> {identity === '' ? 'answers, says nothing of itself' : identity}
          </li>
        ))}
      </ul>
    </section>
  )
}

const unitsWords = ({ units, askedTo, complete }: UnitsFound): string =>
  `${units.length} answered.${complete ? '' : ` Ended at unit ${askedTo}: silent units take their time.`}`
