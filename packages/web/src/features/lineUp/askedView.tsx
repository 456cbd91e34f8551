import { requestKinds, requestState, requestStateWords, type AskedOfOthers, type Job } from '@calm/core/job'
import type { RungState } from '@calm/core/ladder'
import { Plus, Printer } from 'lucide-react'
import { Glyph } from '../../ui'
import type { Dialogs } from './lineUpDialogs'
import { today } from './today'

interface ViewProps {
  readonly head: React.ReactNode
  readonly job: Job
  readonly dialogs: Dialogs
  readonly onPick: (deviceId: string) => void
}

const marks: Readonly<Record<ReturnType<typeof requestState>, RungState>> = {
  'not-asked': 'not-started',
  asked: 'waiting',
  late: 'at-odds',
  answered: 'proven',
}
const ORDER = ['late', 'asked', 'not-asked', 'answered'] as const

/** What only others can give: late ones first. Printed, it is a sheet to send. */
export function AskedView({ head, job, dialogs, onPick }: ViewProps) {
  const day = today()
  const list = [...job.requests].sort(
    (a, b) => ORDER.indexOf(requestState(a, day)) - ORDER.indexOf(requestState(b, day)),
  )
  const devicesOf = (request: AskedOfOthers) => job.devices.filter((device) => request.deviceIds.includes(device.id))
  return (
    <section className="lu-wide asked" aria-label="Asked of others">
      <div className="head lines">
        {head}
        <div className="head-line second no-print">
          <button type="button" className="quiet" onClick={() => dialogs.open({ kind: 'request' })}>
            <Plus size={16} aria-hidden /> Ask somebody
          </button>
          <button type="button" className="plain" onClick={() => window.print()}>
            <Printer size={15} aria-hidden /> Print the sheet
          </button>
        </div>
      </div>
      <h2 className="print-only">
        {job.name}, {job.place}: asked on {day}
      </h2>
      {list.length === 0 && <p className="soft mt-4">Nothing is asked of others.</p>}
      <table>
        <caption className="visually-hidden">Asked of others</caption>
        <thead>
          <tr>
            <th>State</th>
            <th>What</th>
            <th>Of whom</th>
            <th>Asked</th>
            <th>Needed by</th>
            <th>Devices that wait</th>
            <th>Answer</th>
          </tr>
        </thead>
        <tbody>
          {list.map((request) => {
            const state = requestState(request, day)
            return (
              <tr key={request.id}>
                <td>
                  <span className="state">
                    <Glyph state={marks[state]} size={15} /> {requestStateWords[state]}
                  </span>
                </td>
                <th scope="row">
                  <button type="button" className="plain" onClick={() => dialogs.open({ kind: 'request', request })}>
                    {request.what}
                  </button>
                  <span className="note">{requestKinds[request.about].name}</span>
                </th>
                <td>{request.toWhom}</td>
                <td className="typed">{request.askedOn ?? '–'}</td>
                <td className="typed">{request.dueOn ?? '–'}</td>
                <td>
                  {devicesOf(request).map((device) => (
                    <button key={device.id} type="button" className="plain" onClick={() => onPick(device.id)}>
                      {device.tag}
                    </button>
                  ))}
                </td>
                <td className="answer">{request.answer}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
    </section>
  )
}
