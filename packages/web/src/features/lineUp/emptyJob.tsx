import { Button } from '../../ui'
import type { Job } from '@calm/core/job'
import { SearchHere } from '../firstContact'
import type { Dialogs } from './dialogs'

/** How a job begins, what is quickest first. */
export function EmptyJob({ job, dialogs }: { job: Job; dialogs: Dialogs }) {
  return (
    <section aria-label="How to begin" className="mt-4 grid max-w-3xl gap-5">
      <p className="text-(length:--t-lead)">No device yet. Begin with what is quickest:</p>
      <Way title="Search from where this laptop is plugged in">
        <SearchHere job={job} />
      </Way>
      <Way title="Paste a list" say="A device list, an address plan or a sheet: columns are recognised.">
        <Button size="tall" onClick={() => dialogs.open({ kind: 'paste' })}>
          Paste a list or take in a file
        </Button>
      </Way>
      <Way title="Add by hand" say="The form stays open for the next one. The first is mostly the controller.">
        <Button size="tall" onClick={() => dialogs.open({ kind: 'device' })}>
          Add the first device
        </Button>
        <Button size="tall" onClick={() => dialogs.open({ kind: 'network' })}>
          Add a network
        </Button>
      </Way>
    </section>
  )
}

function Way({ title, say, children }: { title: string; say?: string; children: React.ReactNode }) {
  return (
    <div className="grid gap-1.5 border-t border-rule pt-3">
      <h2>{title}</h2>
      {say !== undefined && <p className="note">{say}</p>}
      <div className="flex flex-wrap gap-2">{children}</div>
    </div>
  )
}
