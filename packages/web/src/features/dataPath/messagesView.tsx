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
} from '@calm/core/message'
import { deviceOf, type Handshake, type Job } from '@calm/core/job'
import { readLineSettings } from '@calm/core/serial'
import { useKept } from './useKept'
import { readMessage, useMessagePlan, type MessageTexts, type TimeKey } from './useMessagePlan'
import type { JobEdit } from '../../edit'
import { Area, Choice, Field, Glyph, Toggles } from '../../ui'

const checks = (Object.keys(checksums) as ChecksumId[]).map((value) => ({ value, label: checksums[value].name }))
/** Messages that are tried out. How the device is talked to stands in the job. */
const TRIED = { command: '', answer: '' }

/** Where the ports of the converter that a device hangs behind send what arrives: one entry for each device behind it. */
function destinationsOf(job: Job, { deviceId }: Handshake) {
  const behindId = deviceOf(job, deviceId)?.behindId
  return job.devices.flatMap(({ tag, textPort, behindId: own }) =>
    behindId != null && own === behindId && textPort !== null ? [{ port: String(textPort), destination: tag }] : [],
  )
}

/** Devices that are sent a command and answer it: the words of a message, and an answer split into its fields. */
export function MessagesView({ job, handshake, edit }: { job: Job; handshake: Handshake; edit: JobEdit }) {
  const shared = sharedPorts(destinationsOf(job, handshake))
  const [tried, setTried] = useKept(`message.${handshake.id}`, TRIED)
  const { texts, type, leaving, keep } = useMessagePlan(handshake, edit)
  const { check, padAt } = handshake.message
  const set = (key: keyof typeof TRIED) => (value: string) => setTried({ ...tried, [key]: value })
  const [header, end] = [readMessage.headerBytes(texts.headerBytes), readMessage.endBytes(texts.endBytes)]
  const command = readHex(tried.command)
  const answer = readHex(tried.answer)
  const layout = readLayout(texts.layout)
  const sent = command.ok ? [...command.value, ...checksums[check].of(command.value)] : undefined
  const packed = sent && wordsOfBytes(sent, padAt)
  const split =
    answer.ok && layout.ok && header.ok && end.ok
      ? splitAnswer(answer.value, {
          headerBytes: Number(header.value),
          fields: layout.value,
          checksum: check,
          endBytes: Number(end.value),
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
          placeholder="for example 3A 30 31 52"
          value={tried.command}
          onChange={set('command')}
        />
        {tried.command.trim() !== '' && !command.ok && <Refused {...command.refusal} />}
        <div className="grid grid-cols-[1fr_auto] items-end gap-3">
          <Choice
            label="Check"
            value={check}
            choices={checks}
            onChange={(next) => keep('The check of messages changed.', { check: next })}
          />
          <Toggles
            label="An odd count is filled"
            size="small"
            value={padAt}
            items={[
              { value: 'end', say: 'Filled at the end' },
              { value: 'start', say: 'Filled at the start' },
            ]}
            onChange={(next) => keep('Where an odd count is filled changed.', { padAt: next })}
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
          texts={texts}
          type={type}
          leaving={leaving}
          requestBytes={sent?.length}
          answerBytes={answer.ok ? answer.value.length : undefined}
        />
      </section>
      <section className="grid content-start gap-3" aria-label="Answer">
        <h2 className="font-heavy">The answer</h2>
        <Area label="Bytes, hexadecimal" typed rows={2} value={tried.answer} onChange={set('answer')} />
        {tried.answer.trim() !== '' && !answer.ok && <Refused {...answer.refusal} />}
        <div className="grid grid-cols-2 gap-3" {...leaving}>
          <Field
            label="Header, bytes"
            inputMode="numeric"
            typed
            value={texts.headerBytes}
            trouble={header.ok ? undefined : header.refusal}
            onChange={(text) => type('headerBytes', text)}
          />
          <Field
            label="End mark, bytes"
            inputMode="numeric"
            typed
            value={texts.endBytes}
            trouble={end.ok ? undefined : end.refusal}
            onChange={(text) => type('endBytes', text)}
          />
        </div>
        <div {...leaving}>
          <Area
            label="Fields, one line each"
            typed
            rows={4}
            placeholder={'for example\nFlow: float32 ABCD\nState: uint8'}
            value={texts.layout}
            onChange={(text) => type('layout', text)}
          />
        </div>
        {texts.layout.trim() !== '' && !layout.ok && <Refused {...layout.refusal} />}
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
            header={Number(header.value)}
            trailer={Number(end.value) + checksums[check].of([0]).length}
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

interface TimingProps extends Pick<MessageTexts, 'texts' | 'type' | 'leaving'> {
  readonly requestBytes: number | undefined
  readonly answerBytes: number | undefined
}

/** Whether packets stay apart: what is left of a poll has to be longer than the gap by which a packet ends. */
function Timing({ texts, type, leaving, requestBytes, answerBytes }: TimingProps) {
  const settings = texts.line.trim() === '' ? undefined : readLineSettings(texts.line)
  const numberOf = (key: TimeKey) => {
    const read = readMessage[key](texts[key])
    return read.ok ? read.value : undefined
  }
  const [pollMs, deviceMs, gapMs] = [numberOf('pollMs'), numberOf('deviceMs'), numberOf('gapMs')]
  const bufferBytes = numberOf('bufferBytes')
  const missing = [
    ...(settings?.ok ? [] : ['the line']),
    ...(typeof pollMs === 'number' ? [] : ['the poll']),
    ...(typeof deviceMs === 'number' ? [] : ['the time of the device']),
    ...(typeof gapMs === 'number' ? [] : ['the gap']),
    ...(requestBytes === undefined ? ['a command'] : []),
    ...(answerBytes === undefined ? ['an answer'] : []),
  ]
  const verdict =
    settings?.ok &&
    typeof pollMs === 'number' &&
    typeof deviceMs === 'number' &&
    typeof gapMs === 'number' &&
    bufferBytes !== undefined &&
    requestBytes !== undefined &&
    answerBytes !== undefined
      ? judgePoll({
          settings: settings.value,
          pollMs,
          requestBytes,
          answerBytes,
          deviceMs,
          gapMs,
          bufferBytes: bufferBytes ?? undefined,
        })
      : undefined
  const field = (key: TimeKey, label: string) => {
    const read = readMessage[key](texts[key])
    return (
      <Field
        label={label}
        inputMode="numeric"
        typed
        value={texts[key]}
        trouble={read.ok ? undefined : read.refusal}
        onChange={(text) => type(key, text)}
      />
    )
  }
  return (
    <div className="grid gap-2 border-t border-rule pt-2">
      <div className="grid grid-cols-5 items-end gap-2 max-phone:grid-cols-2" {...leaving}>
        <Field
          label="Line"
          typed
          value={texts.line}
          placeholder="as 9600 8N1"
          trouble={settings?.ok === false ? settings.refusal : undefined}
          onChange={(text) => type('line', text)}
        />
        {field('pollMs', 'Poll, ms')}
        {field('deviceMs', 'Device, ms')}
        {field('gapMs', 'Gap, ms')}
        {field('bufferBytes', 'Buffer, bytes')}
      </div>
      {verdict ? (
        <p className="grid grid-cols-[18px_1fr] gap-1.5" role="status">
          <Glyph state={verdict.troubles.length > 0 ? 'at-odds' : 'proven'} size={14} />
          {verdict.troubles.length > 0
            ? verdict.troubles.join(' ')
            : `${Number(verdict.leftMs.toFixed(2))} ms of silence are left, more than the gap: packets stay apart${typeof bufferBytes === 'number' ? ', and the answer goes into the buffer' : ''}.`}
        </p>
      ) : (
        <p className="note">
          Whether packets stay apart is not known yet without {missing.join(', ') || 'a size of the buffer'}.
        </p>
      )}
    </div>
  )
}

const Refused = ({ what, expected }: { what: string; expected: string }) => (
  <p className="text-odds" role="alert">
    {what} Expected: {expected}.
  </p>
)
