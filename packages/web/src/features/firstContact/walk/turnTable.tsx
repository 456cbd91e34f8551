import type { Job } from '@calm/core/job'
import { isSettled, type Stop, type WalkStep } from '@calm/core/procedure'
import { DataTable, Glyph } from '../../../ui'

interface TurnTableProps {
  readonly job: Job
  readonly stop: Stop
  /** The turn that is due. */
  readonly step: WalkStep
}

/** All of a row in the order of their turns: who, where, on which circuit, which number; those that are done, and whose turn it is. */
export function TurnTable({ job, stop, step }: TurnTableProps) {
  const turns = stop.steps.filter((each) => each.step.kind === 'turn' && each.step.id === step.step.id)
  const rows = turns.flatMap((turn) => {
    const device = job.devices.find(({ id }) => id === turn.deviceId)
    return device ? [{ turn, device }] : []
  })
  return (
    <DataTable
      name="turns"
      caption="The row, in turn"
      className="w-auto"
      rows={rows}
      keyOf={({ turn }) => turn.key}
      columns={[
        {
          id: 'state',
          head: '',
          cell: ({ turn }) => (
            <Glyph state={isSettled(turn) ? 'proven' : turn.key === step.key ? 'in-hand' : 'not-started'} size={16} />
          ),
        },
        {
          id: 'module',
          head: 'Module',
          names: true,
          cell: ({ device }) => <span className="whitespace-nowrap">{device.tag}</span>,
        },
        { id: 'place', head: 'Place', cell: ({ device }) => device.place || 'not said' },
        { id: 'circuit', head: 'Circuit', cell: ({ device }) => device.what || 'not said' },
        {
          id: 'number',
          head: 'Number',
          cell: ({ device, turn }) => (
            <b className={turn.key === step.key ? 'font-typed text-[34px] font-heavy' : 'font-typed'}>
              {device.unitId ?? 'not planned'}
            </b>
          ),
        },
      ]}
    />
  )
}
