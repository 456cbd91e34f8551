import type { Job } from '@calm/core/job'
import { Keyboard, Moon, Search, Sun, Undo2 } from 'lucide-react'
import type { WalkRecord } from '@calm/core/procedure'
import { lazy, Suspense, useState } from 'react'
import { Link } from 'react-router'
import { ok, refusal } from '@calm/core/units'
import { useEdit } from '../edit'
import { Button, Clamp, cn, Editable, tip } from '../ui'
import { applyTheme, storedTheme } from './theme'

/** The top strip: which job, the find box, what is forced, light or dark. */
const Ledger = lazy(() => import('./ledger').then(({ Ledger: Component }) => ({ default: Component })))

interface StripProps {
  readonly job: Job
  readonly walk: WalkRecord | undefined
  readonly onFind: () => void
  readonly onKeys: () => void
}

export function Strip({ job, walk, onFind, onKeys }: StripProps) {
  const [ledger, setLedger] = useState(false)
  const temporary = walk?.temporary.filter((thing) => thing.backAt === null).length ?? 0
  const [theme, setTheme] = useState(storedTheme)
  const forcedCount = job.forced.filter((each) => each.releasedAt === null).length
  const turnTheme = () => {
    const next = theme === 'light' ? 'dark' : 'light'
    applyTheme(next)
    setTheme(next)
  }
  return (
    <header className="flex min-w-0 items-center gap-4 pr-3 pl-5 [grid-area:strip] max-phone:gap-2 max-phone:pt-1.5 max-phone:pr-1.5 max-phone:pb-1.5 max-phone:pl-3.5 print:hidden">
      <div className="flex min-w-0 flex-1 items-baseline gap-2.5 whitespace-nowrap">
        <JobText job={job} field="name" label="Name of the job" />
        <JobText job={job} field="place" label="Place of the job" />
      </div>
      <button
        type="button"
        className="flex h-9.5 w-[min(300px,22vw)] items-center gap-2 rounded-sm border border-rule-strong bg-well pr-2 pl-2.5 text-left text-row text-ink-soft max-phone:hidden"
        onClick={onFind}
      >
        <Search size={17} aria-hidden />
        <span className="flex-1 overflow-hidden text-ellipsis whitespace-nowrap">Find a tag, address or setting</span>
        <kbd>Ctrl K</kbd>
      </button>
      <Link
        aria-label={`${forcedCount} ${forcedCount === 1 ? 'value' : 'values'} forced`}
        className={cn(
          'flex h-9.5 items-center gap-2 rounded-sm border border-ink bg-sheet pr-3 whitespace-nowrap no-underline',
          forcedCount === 0 && 'border-transparent bg-transparent pl-1.5 text-ink-soft',
        )}
        to={`/jobs/${job.id}/hand-over#forced`}
      >
        <span
          className={cn(
            'grid place-items-center',
            forcedCount === 0 ? 'text-ink-faint' : 'h-9 w-8 border-r border-ink bg-caution text-caution-ink',
          )}
        >
          <Clamp />
        </span>
        <b className="text-lead font-strong">{forcedCount}</b>{' '}
        <span className="max-phone:hidden">{forcedCount === 1 ? 'value' : 'values'} forced</span>
      </Link>
      <button
        type="button"
        className={cn(
          'flex h-9.5 items-center gap-1.5 rounded-sm border border-rule-strong bg-sheet px-3 whitespace-nowrap',
          temporary === 0 && 'bg-transparent text-ink-soft',
        )}
        aria-label={`${temporary} temporary ${temporary === 1 ? 'thing' : 'things'} not back yet`}
        {...tip('Temporary things not back yet')}
        onClick={() => setLedger(true)}
      >
        <Undo2 className="flex-none" size={16} aria-hidden />
        <b className={cn('text-lead', temporary === 0 ? 'font-read' : 'font-strong')}>{temporary}</b>{' '}
        <span className="max-desk:hidden">temporary</span>
      </button>
      {ledger && walk && (
        <Suspense>
          <Ledger job={job} walk={walk} onClose={() => setLedger(false)} />
        </Suspense>
      )}
      <span className="flex">
        <Button look="icon" onClick={turnTheme} aria-label={theme === 'light' ? 'Dark screen' : 'Light screen'}>
          {theme === 'light' ? <Moon size={18} /> : <Sun size={18} />}
        </Button>
        <Button look="icon" onClick={onKeys} aria-label="Keys">
          <Keyboard size={18} />
        </Button>
      </span>
    </header>
  )
}

/** Name and place are edited where they stand. */
function JobText({ job, field, label }: { job: Job; field: 'name' | 'place'; label: string }) {
  const { set } = useEdit(job)
  return (
    <div className={cn('min-w-0', field === 'name' ? 'max-w-full flex-none' : 'text-ink-soft max-phone:hidden')}>
      <Editable
        label={label}
        className={cn('m-0 w-auto max-w-full', field === 'name' && 'text-lead font-heavy')}
        text={job[field]}
        read={(text) =>
          field === 'name' && text.trim() === ''
            ? refusal('job.name', 'The name is blank.', 'nothing', 'a name')
            : ok(text)
        }
        onSave={(text) => set(`${label} changed.`, 'job', job, { [field]: text })}
      />
    </div>
  )
}
