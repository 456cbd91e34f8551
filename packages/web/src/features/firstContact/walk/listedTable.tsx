import type { Device, Job } from '@calm/core/job'
import {
  devicesAgainst,
  LISTED_DEVICES,
  listedNodesOf,
  listKept,
  nodesAgainst,
  servedBy,
  type Stop,
  type WalkRecord,
  type WalkStep,
} from '@calm/core/procedure'
import { useState } from 'react'
import type { WalkActs } from '../../../api'
import { Area, Button, DataTable, Glyph, Problems } from '../../../ui'

interface ListedTableProps {
  readonly job: Job
  readonly record: WalkRecord
  readonly stop: Stop
  readonly step: WalkStep
  readonly acts: WalkActs
  /** The check of the step. */
  readonly onCheck: () => Promise<unknown>
}

/** A list that another screen shows, held against the plan: nodes of a bus, or what a controller sees. */
export function ListedTable({ job, record, stop, step, acts, onCheck }: ListedTableProps) {
  const what = listOf(job, record, stop, step)
  const [list, setList] = useState<string | undefined>(undefined)
  const text = list ?? what.kept ?? ''
  const take = () => {
    const fact = { deviceId: what.ofId, setting: what.setting, standing: 'found', text, how: 'typed' } as const
    // What is taken in is compared at once: nobody presses twice.
    void acts
      .addFact(fact)
      .then(() => setList(undefined))
      .then(onCheck)
      .catch(() => undefined)
  }
  const isNodes = what.setting !== LISTED_DEVICES
  return (
    <div className="grid gap-3">
      <DataTable
        name="listed"
        caption={isNodes ? 'Nodes, planned and listed' : 'Devices it talks to, and what it lists'}
        className="w-auto"
        rows={what.against(text)}
        keyOf={({ tag, listed }) => `${tag} ${listed}`}
        columns={[
          {
            id: 'state',
            head: '',
            cell: ({ state }) => (
              <Glyph
                state={
                  text === '' ? 'not-started' : state === 'agrees' ? 'proven' : state === 'more' ? 'waiting' : 'at-odds'
                }
                size={16}
              />
            ),
          },
          { id: 'device', head: 'Device', names: true, cell: ({ tag }) => tag || 'not planned' },
          {
            id: 'planned',
            head: isNodes ? 'Node' : 'Address',
            cell: ({ planned }) => <span className="font-typed">{planned || '–'}</span>,
          },
          {
            id: 'listed',
            head: 'Listed',
            cell: ({ listed }) => <span className="font-typed">{listed || '–'}</span>,
          },
          { id: 'say', head: '', cell: ({ say }) => (text === '' ? '' : say) },
        ]}
      />
      <Area
        className="max-w-120"
        label={
          isNodes
            ? 'List of the search: node and name in each line, as the tool copies it'
            : 'List of its devices: name or address and status in each line, as the tool copies it'
        }
        rows={4}
        typed
        value={text}
        onChange={setList}
      />
      <Problems reason={acts.of('facts').problem} />
      <div>
        <Button disabled={text.trim() === '' || acts.of('facts').busy} onClick={take}>
          Take the list in and compare
        </Button>
      </div>
    </div>
  )
}

/** Whose screen the list is from, and what it is held against. */
function listOf(job: Job, record: WalkRecord, stop: Stop, step: WalkStep) {
  const row = stop.deviceIds.flatMap((id): readonly Device[] => job.devices.filter((device) => device.id === id))
  if (step.step.check === 'nodes-listed') {
    const ofId = row[0]?.behindId ?? row[0]?.id ?? ''
    const setting = listedNodesOf(row[0])
    return {
      ofId,
      setting,
      kept: listKept(record, ofId, setting),
      against: (text: string) => nodesAgainst(job, row, text),
    }
  }
  const [controller] = row
  return {
    ofId: controller?.id ?? '',
    setting: LISTED_DEVICES,
    kept: controller && listKept(record, controller.id, LISTED_DEVICES),
    against: (text: string) => devicesAgainst(controller ? servedBy(job, controller) : [], text),
  }
}
