import { type Job, requestState } from '@calm/core/job'
import { Plus, Redo2, Undo2 } from 'lucide-react'
import { Button, cn, Problems, tip, tipWhenCut, Toggles } from '../../ui'
import type { Dialogs } from './dialogs'
import { LineUpMenu } from './lineUpMenu'
import { today } from './requests'
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
      <div className="flex min-h-11.5 w-full items-center gap-3 max-phone:flex-wrap">
        <h1>Line-up</h1>
        <Toggles
          label="View"
          className="ml-1.5"
          value={view}
          items={lineUpViews.map(({ id, name }) => ({
            value: id,
            say: (
              <>
                {name}
                {counts[id] ? <b className={cn(id === 'findings' && 'text-odds')}>{counts[id]}</b> : null}
              </>
            ),
          }))}
          onChange={onView}
        />
        <span className="ml-auto" />
        {(lineUp.last || lineUp.next) && (
          <span className="flex min-w-0 items-center" role="group" aria-label="Steps">
            <span
              role="status"
              className="mr-1 max-w-47.5 overflow-hidden note text-ellipsis whitespace-nowrap"
              {...tipWhenCut(lineUp.last?.say ?? '')}
            >
              {lineUp.last?.say}
            </span>
            <Button
              look="icon"
              disabled={!lineUp.last}
              aria-label="Undo"
              {...tip(lineUp.last && `Undo: ${lineUp.last.say} (Ctrl Z)`)}
              onClick={() => lineUp.attempt(lineUp.undo())}
            >
              <Undo2 size={17} />
            </Button>
            <Button
              look="icon"
              disabled={!lineUp.next}
              aria-label="Redo"
              {...tip(lineUp.next && `Redo: ${lineUp.next.say} (Ctrl Y)`)}
              onClick={() => lineUp.attempt(lineUp.redo())}
            >
              <Redo2 size={17} />
            </Button>
          </span>
        )}
        <Button onClick={() => dialogs.open({ kind: 'device' })}>
          <Plus size={16} aria-hidden /> Add a device
        </Button>
        <LineUpMenu job={job} dialogs={dialogs} />
      </div>
      {lineUp.problem !== undefined && (
        <div className="mt-2 mr-3 mb-0 ml-0 flex items-center gap-3 rounded-sm border-[1.5px] border-ink px-3 py-2 text-row">
          <Problems reason={lineUp.problem} />
          <Button look="plain" onClick={lineUp.forget}>
            Close
          </Button>
        </div>
      )}
    </>
  )
}
