import { ageAtTask, cyclicLoad, shareOfLink, wasteOf } from '@calm/core/cyclic'
import { controllerCyclicOf, cyclicExchangeOf, deviceOf, type Handshake, type Job } from '@calm/core/job'
import { parseWholeNumber } from '@calm/core/units'
import { useMemo, useState } from 'react'
import { Field } from '../../ui'
import { Figure } from './figure'

const taken = { link: '100', task: '10', used: '' }
type Taken = typeof taken
const limits: Readonly<
  Record<keyof Taken, { readonly name: string; readonly label: string; readonly min: number; readonly max: number }>
> = {
  link: { name: 'Link', label: 'Link, Mbit/s', min: 10, max: 10_000 },
  task: { name: 'Task', label: 'Task of the controller, ms', min: 0, max: 60_000 },
  used: { name: 'Words used', label: 'Words that are used', min: 0, max: 5_000 },
}

/** Beside the clasp of a cyclic exchange: what it costs on the link, and how old a value is when the program uses it. */
export function CyclicPanel({ job, handshake }: { job: Job; handshake: Handshake }) {
  const [typed, setTyped] = useState<Taken>(() => ({
    ...taken,
    task: handshake.times.taskMs === null ? taken.task : String(handshake.times.taskMs),
  }))
  const exchange = useMemo(() => cyclicExchangeOf(job, handshake), [job, handshake])
  const all = useMemo(() => controllerCyclicOf(job, handshake.controllerId), [job, handshake.controllerId])
  if (handshake.exchange !== 'cyclic') return null
  const read = (key: keyof Taken) => (typed[key].trim() === '' ? undefined : parseWholeNumber(typed[key], limits[key]))
  const [link, task, used] = [read('link'), read('task'), read('used')]
  const rate = link?.ok ? link.value : Number(taken.link)
  const controller = deviceOf(job, handshake.controllerId)?.tag ?? ''
  return (
    <section className="mx-5 mb-4 border-t border-rule pt-3" aria-label="On the network">
      <h2 className="mb-1 text-lead font-heavy">On the network</h2>
      {'missing' in exchange ? (
        <p className="note">Not counted yet: {exchange.missing} is not known.</p>
      ) : (
        <dl className="grid grid-cols-[170px_1fr] gap-x-4 gap-y-0.5">
          <Figure
            name="This connection"
            value={`${round(cyclicLoad(exchange).packets)} messages and ${bytesText(cyclicLoad(exchange).dataBytes)} of data a second; ${percent(shareOfLink(cyclicLoad(exchange), rate))} of the link in its busier direction`}
          />
          <Figure name="Age at the program" value={ageText(ageAtTask(exchange, task?.ok ? task.value : 0, rate))} />
          {used?.ok && (
            <Figure
              name="Carried for nothing"
              value={`${bytesText(wasteOf(exchange, { inputs: 2 * used.value, outputs: 0 }).bytes)} a second, ${percent(wasteOf(exchange, { inputs: 2 * used.value, outputs: 0 }).share)} of the data`}
            />
          )}
          <Figure
            name={`All of ${controller}`}
            value={`${all.counted.length} connection${all.counted.length === 1 ? '' : 's'}: ${round(all.load.packets)} messages a second, ${percent(shareOfLink(all.load, rate))} of the link`}
          />
        </dl>
      )}
      {all.notCounted.length > 0 && !('missing' in exchange) && (
        <p className="mt-1.5 note">
          Not counted: {all.notCounted.map(({ tag, missing }) => `${tag} (${missing} is not known)`).join(', ')}.
        </p>
      )}
      <div className="mt-2.5 grid max-w-160 grid-cols-3 items-end gap-3 max-phone:grid-cols-1">
        {(Object.keys(taken) as (keyof Taken)[]).map((key) => {
          const value = read(key)
          return (
            <Field
              key={key}
              label={limits[key].label}
              typed
              inputMode="numeric"
              value={typed[key]}
              trouble={value === undefined || value.ok ? undefined : value.refusal}
              onChange={(text) => setTyped((before) => ({ ...before, [key]: text }))}
            />
          )
        })}
      </div>
    </section>
  )
}

const round = (value: number): string => String(Number(value.toPrecision(3)))
const percent = (share: number): string => `${round(100 * share)} %`
const bytesText = (bytes: number): string => (bytes >= 1000 ? `${round(bytes / 1000)} kB` : `${round(bytes)} bytes`)
const ageText = ({ best, typical, worst }: { best: number; typical: number; worst: number }) =>
  `${round(best)} ms at best, ${round(typical)} ms on the mean, ${round(worst)} ms at worst`
