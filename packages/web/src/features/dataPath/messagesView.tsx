import {
  checksums,
  fitsOf,
  hexText,
  judgePoll,
  printed,
  readHex,
  readLayout,
  sharedPorts,
  splitAnswer,
  wordsOfBytes,
  type ChecksumId,
  type PadAt,
} from '@calm/core/message'
import { deviceOf, type Handshake, type Job } from '@calm/core/job'
import { readLineSettings } from '@calm/core/serial'
import { parseWholeNumber } from '@calm/core/units'
import { useState } from 'react'
import { useKept } from './useKept'
import { Area, Choice, Field, Glyph, Toggles } from '../../ui'

const checks = (Object.keys(checksums) as ChecksumId[]).map((value) => ({ value, label: checksums[value].name }))
const START = {
  command: '',
  answer: '',
  layout: '',
  header: '0',
  end: '0',
  line: '9600 8N1',
  poll: '500',
  device: '50',
  gap: '30',
  buffer: '',
}

/** Where the ports of the converter that a device hangs behind send what arrives: one entry for each device behind it. */
function destinationsOf(job: Job, { deviceId }: Handshake) {
  const behindId = deviceOf(job, deviceId)?.behindId
  return job.devices.flatMap(({ tag, textPort, behindId: own }) =>
    behindId != null && own === behindId && textPort !== null ? [{ port: String(textPort), destination: tag }] : [],
  )
}

/** Devices that are sent a command and answer it: the words of a message, and an answer split into its fields. */
export function MessagesView({ job, handshake }: { job: Job; handshake: Handshake }) {
  const handshakeId = handshake.id
  const shared = sharedPorts(destinationsOf(job, handshake))
  const [typed, setTyped] = useKept(`message.${handshakeId}`, START)
  const [check, setCheck] = useKept<ChecksumId>(`check.${handshakeId}`, 'none')
  const [padAt, setPadAt] = useState<PadAt>('end')
  const set = (key: keyof typeof START) => (value: string) => setTyped({ ...typed, [key]: value })
  const number = (key: 'header' | 'end', name: string) => parseWholeNumber(typed[key], { name, min: 0, max: 250 })
  const [header, end] = [number('header', 'Header'), number('end', 'End mark')]
  const command = readHex(typed.command)
  const answer = readHex(typed.answer)
  const layout = readLayout(typed.layout)
  const sent = command.ok ? [...command.value, ...checksums[check].of(command.value)] : undefined
  const packed = sent && wordsOfBytes(sent, padAt)
  const split =
    answer.ok && layout.ok && header.ok && end.ok
      ? splitAnswer(answer.value, {
          headerBytes: header.value,
          fields: layout.value,
          checksum: check,
          endBytes: end.value,
        })
      : undefined
  return (
    <div className="grid grid-cols-2 gap-7 max-tablet:grid-cols-1">
      {shared.length > 0 && (
        <p className="col-span-full text-odds" role="alert">
          Port {shared.join(', ')} of the converter has more than one destination in the line-up: what arrives goes to
          one of them only.
        </p>
      )}
      <section className="grid content-start gap-3" aria-label="Command">
        <h2 className="font-heavy">The command</h2>
        <Area
          label="Bytes, hexadecimal, without the check"
          typed
          rows={2}
          placeholder="3A 30 31 52"
          value={typed.command}
          onChange={set('command')}
        />
        {typed.command.trim() !== '' && !command.ok && <Refused {...command.refusal} />}
        <div className="grid grid-cols-[1fr_auto] items-end gap-3">
          <Choice label="Check" value={check} choices={checks} onChange={setCheck} />
          <Toggles
            label="An odd count is filled"
            size="small"
            value={padAt}
            items={[
              { value: 'end', say: 'Filled at the end' },
              { value: 'start', say: 'Filled at the start' },
            ]}
            onChange={setPadAt}
          />
        </div>
        {packed && sent && (
          <dl className="grid grid-cols-[130px_1fr] gap-x-3 gap-y-0.5" aria-label="The message as it is sent">
            <dt className="text-ink-soft">Sent</dt>
            <dd className="font-typed wrap-anywhere">{hexText(sent)}</dd>
            <dt className="text-ink-soft">As text</dt>
            <dd className="font-typed wrap-anywhere">{printed(sent)}</dd>
            <dt className="text-ink-soft">Words, signed</dt>
            <dd className="font-typed wrap-anywhere">{packed.signed.join(', ')}</dd>
            <dt className="text-ink-soft">Length</dt>
            <dd>
              {packed.bytes} bytes in {packed.words.length} words
              {packed.isPadded && `; a byte 00 fills the ${padAt}, the length stays ${packed.bytes} bytes`}
            </dd>
          </dl>
        )}
        <Timing
          typed={typed}
          set={set}
          requestBytes={sent?.length}
          answerBytes={answer.ok ? answer.value.length : undefined}
        />
      </section>
      <section className="grid content-start gap-3" aria-label="Answer">
        <h2 className="font-heavy">The answer</h2>
        <Area label="Bytes, hexadecimal" typed rows={2} value={typed.answer} onChange={set('answer')} />
        {typed.answer.trim() !== '' && !answer.ok && <Refused {...answer.refusal} />}
        <div className="grid grid-cols-2 gap-3">
          <Field
            label="Header, bytes"
            inputMode="numeric"
            typed
            value={typed.header}
            trouble={header.ok ? undefined : header.refusal}
            onChange={set('header')}
          />
          <Field
            label="End mark, bytes"
            inputMode="numeric"
            typed
            value={typed.end}
            trouble={end.ok ? undefined : end.refusal}
            onChange={set('end')}
          />
        </div>
        <Area
          label="Fields, one line each"
          typed
          rows={4}
          placeholder={'Flow: float32 ABCD\nState: uint8'}
          value={typed.layout}
          onChange={set('layout')}
        />
        {typed.layout.trim() !== '' && !layout.ok && <Refused {...layout.refusal} />}
        {split?.ok === false && <Refused {...split.refusal} />}
        {split?.ok && (
          <table className="w-full text-row [&_td]:border-t [&_td]:border-rule [&_td]:py-1 [&_td]:pr-3">
            <caption className="text-left note">
              {split.value.fields.length} fields; {check === 'none' ? 'no check to compare' : 'the check fits'}.
            </caption>
            <tbody>
              {split.value.fields.map(({ name, bytes, text }, k) => (
                <tr key={k} data-field={name}>
                  <td>{name}</td>
                  <td className="font-typed text-note">{hexText(bytes)}</td>
                  <td className="font-heavy">{text}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {answer.ok && header.ok && end.ok && (
          <Fits
            bytes={answer.value.length}
            header={header.value}
            trailer={end.value + checksums[check].of([0]).length}
          />
        )}
      </section>
    </div>
  )
}

/** How many fields of one size an answer of this length could hold; a last byte may be filling. */
function Fits({ bytes, header, trailer }: { bytes: number; header: number; trailer: number }) {
  const sizes = [1, 2, 4, 8].map((size) => ({
    size,
    fits: [
      ...fitsOf(bytes, 'bytes', header, size, trailer),
      ...(bytes % 2 === 0 ? fitsOf(bytes / 2, 'words', header, size, trailer).filter(({ isPadded }) => isPadded) : []),
    ],
  }))
  return (
    <p className="note">
      {bytes} bytes hold{' '}
      {sizes
        .map(({ size, fits }) =>
          fits.length === 0
            ? `no whole number of fields of ${size}`
            : fits
                .map(({ fields, isPadded }) => `${fields} of ${size}${isPadded ? ' and a byte of filling' : ''}`)
                .join(' or '),
        )
        .join('; ')}
      .
    </p>
  )
}

interface TimingProps {
  readonly typed: typeof START
  readonly set: (key: keyof typeof START) => (value: string) => void
  readonly requestBytes: number | undefined
  readonly answerBytes: number | undefined
}

/** Whether packets stay apart: what is left of a poll has to be longer than the gap by which a packet ends. */
function Timing({ typed, set, requestBytes, answerBytes }: TimingProps) {
  const settings = readLineSettings(typed.line)
  const [poll, device, gap] = (['poll', 'device', 'gap'] as const).map((key) =>
    parseWholeNumber(typed[key], { name: 'Time', min: 0, max: 60_000 }),
  )
  const buffer =
    typed.buffer.trim() === '' ? undefined : parseWholeNumber(typed.buffer, { name: 'Buffer', min: 1, max: 65_536 })
  const verdict =
    buffer?.ok !== false &&
    settings.ok &&
    poll?.ok &&
    device?.ok &&
    gap?.ok &&
    requestBytes !== undefined &&
    answerBytes !== undefined
      ? judgePoll({
          settings: settings.value,
          pollMs: poll.value,
          requestBytes,
          answerBytes,
          deviceMs: device.value,
          gapMs: gap.value,
          bufferBytes: buffer?.ok ? buffer.value : undefined,
        })
      : undefined
  const field = (key: 'poll' | 'device' | 'gap' | 'buffer', label: string, read: typeof poll) => (
    <Field
      label={label}
      inputMode="numeric"
      typed
      value={typed[key]}
      trouble={read?.ok === false ? read.refusal : undefined}
      onChange={set(key)}
    />
  )
  return (
    <div className="grid gap-2 border-t border-rule pt-2">
      <div className="grid grid-cols-5 items-end gap-2">
        <Field
          label="Line"
          typed
          value={typed.line}
          trouble={settings.ok ? undefined : settings.refusal}
          onChange={set('line')}
        />
        {field('poll', 'Poll, ms', poll)}
        {field('device', 'Device, ms', device)}
        {field('gap', 'Gap, ms', gap)}
        {field('buffer', 'Buffer, bytes', buffer)}
      </div>
      {verdict ? (
        <p className="grid grid-cols-[18px_1fr] gap-1.5" role="status">
          <Glyph state={verdict.troubles.length > 0 ? 'at-odds' : 'proven'} size={14} />
          {verdict.troubles.length > 0
            ? verdict.troubles.join(' ')
            : `${Number(verdict.leftMs.toFixed(2))} ms of silence are left, more than the gap: packets stay apart${buffer ? ', and the answer goes into the buffer' : ''}.`}
        </p>
      ) : (
        <p className="note">With a command and an answer it is said whether packets stay apart.</p>
      )}
    </div>
  )
}

const Refused = ({ what, expected }: { what: string; expected: string }) => (
  <p className="text-odds" role="alert">
    {what} Expected: {expected}.
  </p>
)
