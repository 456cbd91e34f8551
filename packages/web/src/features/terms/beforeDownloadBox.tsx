import {
  beforeDownload,
  downloadTargets,
  type BeforeDownload,
  type Device,
  type Handshake,
  type Job,
} from '@calm/core/job'
import { groupedBy } from '@calm/core/units'
import { format } from 'date-fns/format'
import { useMemo, type ReactNode } from 'react'
import type { RungState } from '@calm/core/ladder'
import { Glyph } from '../../ui'

/** Before a program or a set-up is sent to an end: whether it is the right one, and what is overwritten there. */
export function BeforeDownloadBox({ job, handshake }: { job: Job; handshake: Handshake }) {
  return (
    <section className="mx-5 mt-3 border-t border-rule pt-2" aria-label="Before something is sent">
      <h2 className="text-lead font-heavy">Before a program or a set-up is sent</h2>
      <div className="grid grid-cols-2 gap-6 max-desk:grid-cols-1">
        {downloadTargets(job, handshake).map((device) => (
          <Target key={device.id} job={job} device={device} />
        ))}
      </div>
      <p className="note">
        A download can stop outputs and move machines: nobody in reach, the plant in a safe state, the present program
        uploaded and kept. Site rules and manuals count.
      </p>
    </section>
  )
}

function Target({ job, device }: { job: Job; device: Device }) {
  const { target, overwritten, same, neverSeen, forced, scope } = useMemo(
    () => beforeDownload(job, device),
    [job, device],
  )
  const looked = overwritten.length + same
  return (
    <div data-download={device.tag}>
      <h3 className="text-head font-heavy">{device.tag}</h3>
      <ul className="grid gap-0.5 text-row">
        {target.length === 0 && <Line state="not-started">Nothing is known to tell it from its twins by.</Line>}
        {target.map(({ what, planned, seen, state }) => (
          <Line key={what} state={state === 'same' ? 'proven' : state === 'differs' ? 'at-odds' : 'waiting'}>
            {what} <span className="font-typed">{planned || 'not planned'}</span>
            {state === 'same' && ', seen at the device'}
            {state === 'differs' && (
              <>
                , seen <span className="font-typed">{seen}</span>: another device
              </>
            )}
            {state === 'not-compared' && (seen === '' ? ': compare it at the device' : `, seen ${seen}`)}
          </Line>
        ))}
        <Line state={scope === '' ? 'waiting' : 'in-hand'}>
          {scope === ''
            ? 'Whether "send" covers everything or one page is not said'
            : `As planned, "send" covers ${scope}`}
        </Line>
        {overwritten.map(({ handshake, id, name, there, planned }) => (
          <Line key={`${handshake.id} ${id}`} state="at-odds">
            {name}: <span className="font-typed">{there.text}</span> there, {format(there.at, 'dd MMM HH:mm')}, becomes{' '}
            <span className="font-typed">{planned}</span>
          </Line>
        ))}
        {forced.map(({ id, where, value }) => (
          <Line key={id} state="at-odds">
            Held by hand: {where} at {value}
          </Line>
        ))}
      </ul>
      <p className="note">
        {looked === 0
          ? 'Nobody has looked at any of its settings: what is overwritten is not known.'
          : `${looked} looked at: ${overwritten.length} change, ${same} stay as they are.`}
        {neverSeen.length > 0 && looked > 0 && ` Never looked at: ${unseen(neverSeen)}.`} What is not planned here is
        overwritten too.
      </p>
    </div>
  )
}

/** Settings by the other end that they are agreed with: `EM-501: Count, Scale`. */
const unseen = (all: BeforeDownload['neverSeen']) =>
  [...groupedBy(all, ({ otherTag }) => otherTag)]
    .map(([otherTag, own]) => `${otherTag}: ${own.map(({ name }) => name).join(', ')}`)
    .join('; ')

const Line = ({ state, children }: { state: RungState; children: ReactNode }) => (
  <li className="grid grid-cols-[18px_1fr] items-center gap-1">
    <Glyph state={state} size={12} />
    <span>{children}</span>
  </li>
)
