import { button, Button } from '../../ui'
import type { AsLeftRecord } from '@calm/core/handOver'
import { lineMedia } from '@calm/core/job'
import { format } from 'date-fns/format'
import { ArrowLeft, Printer } from 'lucide-react'
import { useEffect } from 'react'
import { Link, useParams } from 'react-router'
import { useRecord } from '../../api'
import { PageProblemText } from '../../shell'

/** A table as it is printed. */
const sheet =
  'w-full border-collapse text-note [&_td]:border [&_td]:border-rule-strong [&_td]:px-1.5 [&_td]:py-0.75 [&_td]:align-top [&_th]:border [&_th]:border-rule-strong [&_th]:px-1.5 [&_th]:py-0.75 [&_th]:text-left'

const head = 'mt-4.5 mb-1.5'

const when = (at: string) => format(new Date(at), 'd MMM yyyy HH:mm')

/** The as-left record, made for A4. It draws the very record that the files hold. */
export function RecordPage() {
  const { jobId = '' } = useParams()
  const record = useRecord(jobId)
  useEffect(() => {
    if (record.data) document.title = `${record.data.job.name}, as left`
  }, [record.data])
  if (record.isError) return <PageProblemText reason={record.error} />
  if (!record.data) return <p className="p-6 note">Reading the record…</p>
  return <Record jobId={jobId} record={record.data} />
}

function Record({ jobId, record }: { jobId: string; record: AsLeftRecord }) {
  const { job } = record
  return (
    <div className="print:h-auto print:overflow-visible print:bg-transparent">
      <main className="mx-auto my-0 max-w-[190mm] bg-sheet px-4 py-6 print:max-w-none print:p-0">
        <p className="mb-4 flex gap-3 print:hidden">
          <Link className={button()} to={`/jobs/${jobId}/hand-over`}>
            <ArrowLeft size={16} aria-hidden /> Back
          </Link>
          <Button look="act" onClick={() => window.print()}>
            <Printer size={16} aria-hidden /> Print
          </Button>
        </p>
        <h1>{job.name}: as-left record</h1>
        <p>
          {job.place}.{' '}
          {job.mode === 'plant' ? 'Read on the plant.' : 'Rehearsed on the bench: stand-ins, not the real equipment.'}{' '}
          Made {format(new Date(record.madeAt), 'd MMMM yyyy, HH:mm')}.
        </p>
        <p className="mt-1">
          <b>{record.state.slice(0, 1).toUpperCase() + record.state.slice(1)}.</b> {record.pointsProven} of{' '}
          {record.pointsToProve} points proven.
        </p>
        <Sentences title="Open points" sentences={record.open} />
        <Sentences title="Parked or let stand, with a reason" sentences={record.known} />
        <NetworkList networks={record.networks} lines={record.lines} />
        <h2 className={head}>Devices</h2>
        <DeviceList devices={record.devices} />
        <AskedTable asked={record.askedOfOthers} />
        <LedgerTable ledger={record.ledger} />
        {record.handshakes.map((handshake) => (
          <section key={handshake.name}>
            <h2 className={head}>{handshake.name}</h2>
            <TermList terms={handshake.terms} />
            <RungTable rungs={handshake.rungs} />
            <PointTable points={handshake.points} />
          </section>
        ))}
        <p className="mt-3 note">
          Seal of the log: <span className="font-typed font-medium">{record.logHash}</span>.{' '}
          {record.logWhole ? 'The chain is whole.' : 'The chain is broken.'}
        </p>
        <div className="mt-10 grid grid-cols-3 gap-6">
          <span className="border-t border-ink pt-1 text-note">Commissioned by</span>
          <span className="border-t border-ink pt-1 text-note">Accepted by</span>
          <span className="border-t border-ink pt-1 text-note">Date</span>
        </div>
      </main>
    </div>
  )
}

function Sentences({ title, sentences }: { title: string; sentences: readonly string[] }) {
  if (sentences.length === 0) return null
  return (
    <>
      <h2 className={head}>{title}</h2>
      <ul>
        {sentences.map((sentence) => (
          <li key={sentence}>– {sentence}</li>
        ))}
      </ul>
    </>
  )
}

function NetworkList({ networks, lines }: Pick<AsLeftRecord, 'networks' | 'lines'>) {
  if (networks.length + lines.length === 0) return null
  return (
    <>
      <h2 className={head}>Networks and lines</h2>
      <table className={sheet}>
        <tbody>
          {networks.map(({ name, cidr, gateway, vlan, dhcp, reserved }) => (
            <tr key={`network ${name}`}>
              <td>{name}</td>
              <td className="font-typed">{cidr}</td>
              <td>
                {[
                  gateway && `gateway ${gateway}`,
                  vlan !== null && `VLAN ${vlan}`,
                  dhcp && `DHCP range ${dhcp}`,
                  reserved && `reserved ${reserved}`,
                ]
                  .filter(Boolean)
                  .join('; ')}
              </td>
            </tr>
          ))}
          {lines.map(({ name, medium, settings }) => (
            <tr key={`line ${name}`}>
              <td>{name}</td>
              <td className="font-typed">{settings}</td>
              <td>{lineMedia[medium].name}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}

function AskedTable({ asked }: { asked: AsLeftRecord['askedOfOthers'] }) {
  if (asked.length === 0) return null
  return (
    <>
      <h2 className={head}>Asked of others</h2>
      <table className={sheet}>
        <tbody>
          {asked.map((each) => (
            <tr key={`${each.what} ${each.toWhom}`}>
              <td>{each.what}</td>
              <td>{each.toWhom}</td>
              <td>
                {each.answeredOn === null
                  ? `Not answered${each.askedOn === null ? ', not asked yet' : `, asked ${each.askedOn}`}`
                  : `${each.answer} (${each.answeredOn})`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}

function DeviceList({ devices }: { devices: AsLeftRecord['devices'] }) {
  return (
    <table className={sheet}>
      <thead>
        <tr>
          <th>Tag</th>
          <th>What it is</th>
          <th>Address</th>
          <th>Unit</th>
          <th>Gateway</th>
        </tr>
      </thead>
      <tbody>
        {devices.map((device) => (
          <tr key={device.tag}>
            <td>{device.tag}</td>
            <td>{device.what}</td>
            <td className="font-typed">
              {device.ports.map((port) => port.address ?? '').join(', ') ||
                (device.behind ? `via ${device.behind}` : '')}
            </td>
            <td className="font-typed">{device.unitId ?? ''}</td>
            <td className="font-typed">{device.ports[0]?.gateway ?? ''}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** Everything temporary, open and back: what was forced or left is part of how it was handed over. */
function LedgerTable({ ledger }: { ledger: AsLeftRecord['ledger'] }) {
  if (ledger.length === 0) return null
  return (
    <>
      <h2 className={head}>Forced values and temporary things</h2>
      <table className={sheet}>
        <tbody>
          {ledger.map((entry) => (
            <tr key={`${entry.what} ${entry.at}`}>
              <td>{entry.what}</td>
              <td>
                {entry.who}, {when(entry.at)}
              </td>
              <td>
                {entry.backAt === null
                  ? `Open. ${entry.putBack}`
                  : `Back: ${entry.backBy ?? ''}, ${when(entry.backAt)}`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}

function TermList({ terms }: { terms: AsLeftRecord['handshakes'][number]['terms'] }) {
  return (
    <p className="note">
      {terms
        .map((row) =>
          row.state === 'equal'
            ? `${row.term} ${row.device}`
            : `${row.term} ${row.controller || 'not known'} / ${row.device || 'not known'} (${row.state === 'at-odds' ? 'at odds' : row.state})`,
        )
        .join('; ')}
      .
    </p>
  )
}

function RungTable({ rungs }: { rungs: AsLeftRecord['handshakes'][number]['rungs'] }) {
  return (
    <table className={sheet}>
      <thead>
        <tr>
          <th className="w-[18%]">Rung</th>
          <th className="w-[14%]">State</th>
          <th>Evidence</th>
        </tr>
      </thead>
      <tbody>
        {rungs.map((rung) => (
          <tr key={rung.rung}>
            <td>{rung.rung}</td>
            <td>{rung.state}</td>
            <td>
              {rung.because || rung.missing}
              {rung.at && ` (${rung.who}, ${when(rung.at)}, ${rung.how}, ${rung.mode ?? ''})`}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** Every point with what was read, what it was compared with and where that came from; others that need no proof by name. */
function PointTable({ points }: { points: AsLeftRecord['handshakes'][number]['points'] }) {
  const isShown = (point: (typeof points)[number]) => point.hasToBeProven || point.who !== null
  const shown = points.filter(isShown)
  const others = points.filter((point) => !isShown(point))
  return (
    <>
      {shown.length > 0 && (
        <table className={`${sheet} mt-1.5`}>
          <thead>
            <tr>
              <th className="w-[18%]">Point</th>
              <th className="w-[14%]">State</th>
              <th>Values</th>
              <th className="w-[26%]">Reference</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((point) => (
              <tr key={point.tag + point.point}>
                <td>
                  {point.point}
                  <br />
                  <span className="font-typed">{point.tag}</span>
                </td>
                <td>
                  {point.state}
                  {!point.hasToBeProven && ', need not be proven'}
                </td>
                <td>
                  {point.values.map(({ place, shown: value, how }) => `${place} ${value}, ${how}`).join('; ')}
                  {point.at && ` (${point.who}, ${when(point.at)}, ${point.mode ?? ''})`}
                  {point.state !== 'proven' && point.because !== '' && <div>{point.because}</div>}
                </td>
                <td>
                  {point.reference
                    ? `${point.reference.shown} ${point.tolerance}, ${point.reference.origin || 'origin not named'}`
                    : `None. Tolerance ${point.tolerance}`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {others.length > 0 && (
        <p className="mt-1 note">
          {others.length} more {others.length === 1 ? 'point needs' : 'points need'} no proof and{' '}
          {others.length === 1 ? 'was' : 'were'} not read: {others.map(({ tag }) => tag).join(', ')}.
        </p>
      )}
    </>
  )
}
