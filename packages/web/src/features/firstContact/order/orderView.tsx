import type { OrderSettings, WalkPlan } from '@calm/core/procedure'
import { wordsOf } from '@calm/core/sequence'
import { useEffect, useMemo, useRef } from 'react'
import { clockText } from '../../../shell'
import { Checkbox, Choice, DataTable, Field, Glyph, Problems } from '../../../ui'
import { PlanningNote } from '../planningNote'
import { drawSchedule } from './scheduleChart'
import { LeftOutNotes } from '../walk'
import { RunChoices } from './runChoices'
import type { ViewProps } from '../viewProps'

const TOO_LARGE = 'The order of so many devices was not found. Leave some out, and walk the others first.'

/** What the order is computed from, what it costs, and when what is done. */
export function OrderView({ job, record, contact, acts }: ViewProps) {
  const { plan, planning, given } = contact
  const change = (settings: Partial<OrderSettings>) =>
    void acts.saveSettings(record.version, { ...record.settings, ...settings }).catch(() => undefined)
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-6 pt-4 pb-8">
      <Problems reason={acts.of('order').problem ?? acts.of('runs').problem} />
      <LeftOutNotes job={job} acts={acts} leftOut={plan?.leftOut ?? []} />
      <PlanningNote contact={contact} />
      {plan && 'answer' in plan ? (
        <Figures plan={plan} job={job} people={record.settings.people} given={given} />
      ) : (
        !planning.busy && <p>{plan && 'tooLarge' in plan ? TOO_LARGE : 'There is nothing to put in order.'}</p>
      )}
      <section aria-label="What it is computed from">
        <h2 className="mt-2">Computed from</h2>
        <div className="mt-2.5 mb-3.5 flex flex-wrap gap-x-6 gap-y-3">
          <Choice
            label="People at work"
            value={String(record.settings.people)}
            choices={[
              { value: '1', label: 'one' },
              { value: '2', label: 'two' },
            ]}
            onChange={(value) => change({ people: value === '2' ? 2 : 1 })}
          />
          <Choice
            label="Addresses the laptop holds at once"
            value={String(record.settings.holds)}
            choices={[
              { value: '1', label: 'one' },
              { value: '2', label: 'two' },
            ]}
            onChange={(value) => change({ holds: value === '2' ? 2 : 1 })}
          />
          <Choice
            label="Best is"
            value={record.settings.preference}
            choices={[
              { value: 'seconds', label: 'least hands-on time' },
              { value: 'fewest-changes', label: 'fewest laptop changes' },
            ]}
            onChange={(value) => change({ preference: value as OrderSettings['preference'] })}
          />
          <SecondsField
            label="Seconds for a laptop change"
            seconds={record.settings.laptopChange}
            onSave={(laptopChange) => change({ laptopChange })}
          />
          <SecondsField
            label="Seconds to pull or plug a lead"
            seconds={record.settings.leadMove}
            onSave={(leadMove) => change({ leadMove })}
          />
        </div>
        <DataTable
          name="breakers"
          caption="Breakers and groups"
          className="mt-2 mb-6 w-auto"
          rows={given.groups}
          keyOf={({ id }) => id}
          columns={[
            { id: 'group', head: 'Breaker or group', names: true, cell: ({ id }) => id, sort: ({ id }) => id },
            {
              id: 'devices',
              head: 'Devices',
              cell: ({ id }) =>
                given.devices
                  .filter((device) => device.groupId === id)
                  .map((device) => device.name)
                  .join(', '),
            },
            ...(['live', 'mustStayLive', 'chained'] as const).map((flag) => ({
              id: flag,
              head: flagHeads[flag],
              cell: (group: (typeof given.groups)[number]) => (
                <Checkbox
                  hideLabel
                  label={`${group.id}: ${flagWords[flag]}`}
                  checked={group[flag]}
                  onChange={(on) =>
                    change({
                      groups: {
                        ...record.settings.groups,
                        [group.id]: { ...record.settings.groups[group.id], [flag]: on },
                      },
                    })
                  }
                />
              ),
            })),
          ]}
        />
      </section>
      <RunChoices job={job} record={record} acts={acts} />
    </div>
  )
}

const flagHeads = { live: 'Has power now', mustStayLive: 'Must stay on', chained: 'Leads stay in' } as const
const flagWords = {
  live: 'has power now',
  mustStayLive: 'must stay on',
  chained: 'is a daisy chain, or its leads stay in',
} as const

function SecondsField({
  label,
  seconds,
  onSave,
}: {
  label: string
  seconds: number
  onSave: (seconds: number) => void
}) {
  return (
    <Field
      label={label}
      value={String(seconds)}
      inputMode="numeric"
      onChange={(text) => /^\d{1,4}$/.test(text) && onSave(Number(text))}
    />
  )
}

interface FiguresProps extends Pick<ViewProps, 'job'> {
  readonly plan: WalkPlan
  readonly people: 1 | 2
  readonly given: ViewProps['contact']['given']
}

function Figures({ plan, job, people, given }: FiguresProps) {
  const { answer, schedule, sequential } = plan
  const chart = useRef<HTMLDivElement>(null)
  const words = useMemo(
    () => wordsOf(given, answer.actions, (id) => job.devices.find((device) => device.id === id)?.tag ?? id),
    [given, answer.actions, job.devices],
  )
  useEffect(() => {
    const box = chart.current
    return box
      ? drawSchedule(
          box,
          plan,
          words.map(({ title }) => title),
        )
      : undefined
  }, [plan, words])
  const list = answer.listOrder
  return (
    <section aria-label="What the order costs">
      <div className="mb-2 flex flex-wrap gap-x-9 gap-y-3">
        <p data-figure>
          <b className="block font-text text-arm leading-tight font-heavy tabular-nums">
            {clockText(answer.cost.seconds)}
          </b>
          <span className="block note">hands on, min:s</span>
        </p>
        <p data-figure>
          <b className="block font-text text-arm leading-tight font-heavy tabular-nums">
            {list.kind === 'cost' ? clockText(list.cost.seconds) : 'stuck'}
          </b>
          <span className="block note">
            {list.kind === 'cost'
              ? 'in list order'
              : `list order stops at ${job.devices.find((device) => device.id === list.deviceId)?.tag ?? ''}`}
          </span>
        </p>
        <p data-figure>
          <b className="block font-text text-arm leading-tight font-heavy tabular-nums">{clockText(schedule.finish)}</b>
          <span className="block note">finished, {people === 1 ? 'one person' : 'two people'}</span>
        </p>
        <p data-figure>
          <b className="block font-text text-arm leading-tight font-heavy tabular-nums">
            {sequential === undefined ? 'stuck' : clockText(sequential)}
          </b>
          <span className="block note">list order, every wait sat out</span>
        </p>
      </div>
      <p className="flex flex-wrap items-center gap-x-1.5 gap-y-0 note">
        <Glyph state={answer.proven ? 'proven' : 'in-hand'} size={14} />
        {given.preference === 'seconds'
          ? answer.proven
            ? 'No order costs less.'
            : `At least ${clockText(answer.bound.seconds)}; not proven.`
          : answer.proven
            ? 'No order has fewer laptop changes.'
            : 'Whether an order has fewer laptop changes is not proven.'}{' '}
        {answer.cost.laptopChanges} laptop changes (at least {answer.bound.laptopChanges}), {answer.cost.powerActions}{' '}
        power actions (at least {answer.bound.powerActions}), {answer.cost.settings} settings, {answer.cost.cableMoves}{' '}
        cable moves, {answer.cost.leadMoves} leads pulled or plugged.
      </p>
      <div
        ref={chart}
        className="my-3.5 w-full"
        role="img"
        aria-label={`What is done when; finished after ${clockText(schedule.finish)}`}
      />
      <ol className="mb-6 grid gap-1">
        {answer.actions.map((_, index) => (
          <li key={index}>
            <span className="inline-block w-16 font-typed font-medium">{clockText(schedule.starts[index] ?? 0)}</span>
            <b>{words[index]?.title}</b> <span className="note">{words[index]?.reason}</span>
          </li>
        ))}
      </ol>
    </section>
  )
}
