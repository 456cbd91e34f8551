import { Sheet } from '../../ui'
import { byMatter } from '@calm/core/findings'
import { useCallback, useLayoutEffect, useRef } from 'react'
import { useSearchParams } from 'react-router'
import { useStage } from '../../shell'
import { AskedView } from './requests'
import { FindingsView } from './findings'
import { LineUpHead } from './lineUpHead'
import { LineUpDialogs, useDialogs } from './dialogs'
import { PictureView } from './pictureView'
import { TableView } from './table'
import { Tape } from './tape'
import { useLineUp } from './useLineUp'
import { useUndoKeys } from '../../edit'
import { viewOf, type LineUpView } from './views'

/** The line-up: devices and networks as a table, a picture, a list of findings, and what was asked of others. */
export function LineUpPage() {
  const { job, findings } = useStage()
  const lineUp = useLineUp(job)
  const [search, setSearch] = useSearchParams()
  const main = useRef<HTMLElement>(null)
  const view = viewOf(search.get('view'))
  const selectedId = search.get('device') ?? undefined
  const current = useRef(search)
  useLayoutEffect(() => {
    current.current = search
  }, [search])
  const put = useCallback(
    (changes: Readonly<Record<string, string | undefined>>) => {
      const next = new URLSearchParams(current.current)
      for (const [name, value] of Object.entries(changes)) {
        if (value === undefined || value === '') next.delete(name)
        else next.set(name, value)
      }
      // A second change before the page has followed the first goes on from it.
      current.current = next
      setSearch(next, { replace: true })
    },
    [setSearch],
  )
  const dialogs = useDialogs()
  useUndoKeys(
    () => lineUp.attempt(lineUp.undo()),
    () => lineUp.attempt(lineUp.redo()),
  )
  const pick = useCallback((deviceId: string) => put({ device: deviceId }), [put])
  const pickInTable = (deviceId: string) => put({ device: deviceId, view: undefined, show: undefined, q: undefined })
  const head = (
    <LineUpHead
      job={job}
      view={view}
      findingCount={byMatter(findings).filter(([finding]) => finding.severity !== 'worth-knowing').length}
      onView={(next: LineUpView) => put({ view: next === 'table' ? undefined : next })}
      lineUp={lineUp}
      dialogs={dialogs}
    />
  )
  return (
    <Sheet
      className="grid grid-cols-[minmax(0,1fr)_auto] grid-rows-[minmax(0,1fr)_auto] overflow-hidden [grid-template-areas:'table_side'_'tape_tape'] max-phone:block max-phone:overflow-auto"
      ref={main}
    >
      {view === 'table' && (
        <TableView
          head={head}
          main={main}
          job={job}
          findings={findings}
          lineUp={lineUp}
          search={search}
          put={put}
          selectedId={selectedId}
          dialogs={dialogs}
        />
      )}
      {view === 'picture' && <PictureView head={head} job={job} selectedId={selectedId} onPick={pickInTable} />}
      {view === 'findings' && <FindingsView head={head} job={job} lineUp={lineUp} onPick={pickInTable} />}
      {view === 'asked' && <AskedView head={head} job={job} dialogs={dialogs} onPick={pickInTable} />}
      {view === 'table' && (
        <Tape
          job={job}
          shownId={search.get('network') ?? undefined}
          selected={job.devices.find((device) => device.id === selectedId)}
          findings={findings}
          onShow={(id) => put({ network: id })}
          onPick={pick}
          lineUp={lineUp}
          dialogs={dialogs}
        />
      )}
      <LineUpDialogs job={job} lineUp={lineUp} dialogs={dialogs} onGone={() => put({ network: undefined })} />
    </Sheet>
  )
}
