import type { Device, Job } from '@calm/core/job'
import { markedAgainst, PROJECT_CODE, rackOf, readRackList, type RackSlot, type WalkRecord } from '@calm/core/procedure'
import { useState } from 'react'
import type { WalkActs } from '../../../api'
import { useEdit } from '../../../edit'
import { Area, Button, DataTable, Problems } from '../../../ui'

interface RackTableProps {
  readonly job: Job
  readonly record: WalkRecord
  readonly head: Device
  readonly acts: WalkActs
}

/** A rack slot by slot: parts list, label and project beside each other, the letters that differ marked. */
export function RackTable({ job, record, head, acts }: RackTableProps) {
  const slots = rackOf(job, record, head)
  const { change } = useEdit(job)
  const [list, setList] = useState('')
  const [refused, setRefused] = useState<readonly string[]>([])
  const [trouble, setTrouble] = useState<unknown>(undefined)
  const take = async (whose: 'project' | 'labels') => {
    const { codes, problems } = readRackList(list, slots)
    const none = codes.length === 0 && problems.length === 0
    setRefused(none ? ['No line has a slot and an order code.'] : problems)
    // A list with a line that cannot be is not half taken; it stays in the box.
    if (none || problems.length > 0) return
    try {
      if (whose === 'project')
        for (const { device, code } of codes)
          await acts.addFact({
            deviceId: device.id,
            setting: PROJECT_CODE,
            standing: 'found',
            text: code,
            how: 'typed',
          })
      else
        await change(
          `Labels of ${codes.length} modules written down.`,
          codes.map(({ device, code }) => ({
            op: 'set' as const,
            table: 'device' as const,
            id: device.id,
            version: device.version,
            fields: { orderCodeFound: code },
          })),
        )
      setList('')
      setTrouble(undefined)
    } catch (reason) {
      setTrouble(reason)
    }
  }
  return (
    <div className="grid gap-3">
      <DataTable
        name="rack"
        caption={`Rack of ${head.tag}`}
        className="w-auto"
        rows={slots}
        keyOf={({ device }) => device.id}
        columns={[
          { id: 'slot', head: 'Slot', cell: ({ slot }) => <b className="font-typed">{slot || '–'}</b> },
          {
            id: 'module',
            head: 'Module',
            names: true,
            cell: ({ device }) => <span className="whitespace-nowrap">{device.tag}</span>,
          },
          { id: 'planned', head: 'Parts list', cell: ({ planned }) => <Code code={planned} /> },
          { id: 'found', head: 'Label', cell: (slot) => <Code code={slot.found} against={measureOf(slot)} /> },
          { id: 'project', head: 'Project', cell: (slot) => <Code code={slot.project} against={slot.found} /> },
        ]}
      />
      <Area
        className="max-w-120"
        label="List of modules: slot and order code in each line, as a programming tool copies it"
        rows={4}
        typed
        value={list}
        onChange={setList}
      />
      {refused.length > 0 && (
        <ul role="alert" className="text-odds">
          {refused.map((text) => (
            <li key={text}>{text}</li>
          ))}
        </ul>
      )}
      <Problems reason={trouble} />
      <div className="flex flex-wrap gap-2.5">
        <Button disabled={list.trim() === ''} onClick={() => void take('project')}>
          The project has these
        </Button>
        <Button disabled={list.trim() === ''} onClick={() => void take('labels')}>
          The labels say these
        </Button>
      </div>
    </div>
  )
}

/** A label is held against the project, and against the parts list while the project is not known. */
const measureOf = ({ project, planned }: RackSlot): string => project || planned

function Code({ code, against = '' }: { readonly code: string; readonly against?: string }) {
  if (code === '') return <span className="note">not known</span>
  return (
    <code className="font-typed whitespace-nowrap">
      {markedAgainst(code, against).map(({ text, differs }, place) =>
        differs ? (
          <mark key={place} className="bg-odds-wash font-heavy text-odds">
            {text}
          </mark>
        ) : (
          <span key={place}>{text}</span>
        ),
      )}
    </code>
  )
}
