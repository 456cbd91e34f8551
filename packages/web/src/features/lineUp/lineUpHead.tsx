import type { Job } from '@calm/core/job'
import { requestState } from '@calm/core/job'
import { Plus, Redo2, Undo2 } from 'lucide-react'
import { Problems } from '../../ui'
import type { Dialogs } from './lineUpDialogs'
import { LineUpMenu } from './lineUpMenu'
import { today } from './today'
import type { LineUp } from './useLineUp'
import { lineUpViews, type LineUpView } from './views'

interface HeadProps {
  readonly job: Job
  readonly view: LineUpView
  readonly findingCount: number
  readonly onView: (view: LineUpView) => void
  readonly lineUp: LineUp
  readonly dialogs: Dialogs
}

/** Name of the stage, its views, and what can be done in all of them. */
export function LineUpHead({ job, view, findingCount, onView, lineUp, dialogs }: HeadProps) {
  const open = job.requests.filter((each) => requestState(each, today()) !== 'answered').length
  const counts: Readonly<Partial<Record<LineUpView, number>>> = { findings: findingCount, asked: open }
  return (
    <>
      <div className="head-line">
        <h1>Line-up</h1>
        <div className="sift views" role="group" aria-label="View">
          {lineUpViews.map(({ id, name }) => (
            <button key={id} type="button" aria-pressed={view === id} onClick={() => onView(id)}>
              {name}
              {counts[id] ? <b className={id === 'findings' ? 'odds' : ''}>{counts[id]}</b> : null}
            </button>
          ))}
        </div>
        <span className="push" />
        {(lineUp.last || lineUp.next) && (
          <span className="steps" role="group" aria-label="Steps">
            <span role="status" className="note said" title={lineUp.last?.say}>
              {lineUp.last?.say}
            </span>
            <button
              type="button"
              className="icon-button"
              disabled={!lineUp.last}
              aria-label="Undo"
              title={lineUp.last ? `Undo: ${lineUp.last.say} (Ctrl Z)` : 'Nothing to undo'}
              onClick={() => lineUp.attempt(lineUp.undo())}
            >
              <Undo2 size={17} />
            </button>
            <button
              type="button"
              className="icon-button"
              disabled={!lineUp.next}
              aria-label="Redo"
              title={lineUp.next ? `Redo: ${lineUp.next.say} (Ctrl Y)` : 'Nothing to redo'}
              onClick={() => lineUp.attempt(lineUp.redo())}
            >
              <Redo2 size={17} />
            </button>
          </span>
        )}
        <button type="button" className="quiet" onClick={() => dialogs.open({ kind: 'device' })}>
          <Plus size={16} aria-hidden /> Add a device
        </button>
        <LineUpMenu job={job} dialogs={dialogs} />
      </div>
      {lineUp.problem !== undefined && (
        <div className="undo">
          <Problems reason={lineUp.problem} />
          <button type="button" className="plain" onClick={lineUp.forget}>
            Close
          </button>
        </div>
      )}
    </>
  )
}
