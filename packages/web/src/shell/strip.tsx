import type { Job } from '@calm/core/job'
import { Keyboard, Moon, Search, Sun, Undo2 } from 'lucide-react'
import type { WalkRecord } from '@calm/core/procedure'
import { lazy, Suspense, useState } from 'react'
import { Link } from 'react-router'
import { ok, refusal } from '@calm/core/units'
import { useEdit } from '../edit'
import { Clamp, Editable } from '../ui'
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
    <header className="strip">
      <div className="job-name">
        <JobText job={job} field="name" label="Name of the job" />
        <JobText job={job} field="place" label="Place of the job" />
      </div>
      <button type="button" className="find" onClick={onFind}>
        <Search size={17} aria-hidden />
        <span>Find a tag, address or setting</span>
        <kbd>Ctrl K</kbd>
      </button>
      <Link
        aria-label={`${forcedCount} ${forcedCount === 1 ? 'value' : 'values'} forced`}
        className={`forced-count ${forcedCount === 0 ? 'none' : ''}`}
        to={`/jobs/${job.id}/hand-over#forced`}
      >
        <Clamp />
        <b>{forcedCount}</b> <span className="words">{forcedCount === 1 ? 'value' : 'values'} forced</span>
      </Link>
      <button
        type="button"
        className={`temporary-count ${temporary === 0 ? 'none' : ''}`}
        aria-label={`${temporary} temporary ${temporary === 1 ? 'thing' : 'things'} not back yet`}
        title="Temporary things not back yet"
        onClick={() => setLedger(true)}
      >
        <Undo2 size={16} aria-hidden />
        <b>{temporary}</b> <span className="words">temporary</span>
      </button>
      {ledger && walk && (
        <Suspense>
          <Ledger job={job} walk={walk} onClose={() => setLedger(false)} />
        </Suspense>
      )}
      <span className="flex">
        <button
          type="button"
          className="icon-button"
          onClick={turnTheme}
          aria-label={theme === 'light' ? 'Dark screen' : 'Light screen'}
        >
          {theme === 'light' ? <Moon size={18} /> : <Sun size={18} />}
        </button>
        <button type="button" className="icon-button" onClick={onKeys} aria-label="Keys">
          <Keyboard size={18} />
        </button>
      </span>
    </header>
  )
}

/** Name and place are edited where they stand. */
function JobText({ job, field, label }: { job: Job; field: 'name' | 'place'; label: string }) {
  const { set } = useEdit(job)
  return (
    <div className={field === 'name' ? 'strong' : 'soft'}>
      <Editable
        label={label}
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
