import { api, pathOf } from '@calm/contract/api'
import type { Handshake, Job } from '@calm/core/job'
import { tableFiles, type DevicePacking, type TableFile } from '@calm/core/points'
import { useMemo } from 'react'
import type { JobEdit } from '../../edit'
import { Button, button, saveText } from '../../ui'

interface TablesProps {
  readonly job: Job
  readonly handshake: Handshake
  readonly packed: DevicePacking
  readonly edit: JobEdit
}

/** The tables for both ends, made from the points as they stand; one that was taken before and no longer fits is said to be old. */
export function TablesToTake({ job, handshake, packed, edit }: TablesProps) {
  const files = useMemo(() => tableFiles(job, handshake, packed), [job, handshake, packed])
  const taken = handshake.tablesTaken
  const save = ({ id, name, fileName, mediaType, content }: TableFile) => {
    if ('missing' in content) return
    saveText(fileName, content.text, mediaType)
    if (taken[id] === content.mark) return
    const tablesTaken = { ...taken, [id]: content.mark }
    edit.attempt(edit.set(`${name} taken, mark ${content.mark}.`, 'handshake', handshake, { tablesTaken }))
  }
  return (
    <section aria-label="Tables to take" className="border-t border-rule-strong pt-3">
      <h2 className="font-heavy">Tables for both ends</h2>
      <ul className="mt-1.5 grid gap-2">
        {files.map((file) => (
          <li key={file.id} className="flex flex-wrap items-baseline gap-x-3">
            <Button disabled={'missing' in file.content} onClick={() => save(file)}>
              {file.name}
            </Button>
            <span className="note">{file.say}</span>
            <Standing file={file} before={taken[file.id]} />
          </li>
        ))}
        <li className="flex flex-wrap items-baseline gap-x-3">
          <a className={button({})} href={`/api${pathOf(api.pointsAsWorkbook, { id: handshake.id })}`} download>
            Workbook
          </a>
          <span className="note">points and requests, a sheet each; the points can be taken in again</span>
        </li>
      </ul>
    </section>
  )
}

/** Whether what was taken before is still what would be taken now. */
function Standing({ file: { id, content }, before }: { file: TableFile; before: string }) {
  const isOld = before !== '' && (!('mark' in content) || content.mark !== before)
  const why = 'missing' in content ? `Not made yet: ${content.missing}.` : ''
  if (before === '') return why === '' ? null : <span className="note">{why}</span>
  return (
    <span className={isOld ? 'text-odds' : 'note'} data-table={id}>
      {!isOld
        ? `as taken before (mark ${before})`
        : `The one that was taken (mark ${before}) is old: the points have changed since. ${'mark' in content ? `It is ${content.mark} now.` : why}`}
    </span>
  )
}
