import {
  addressOf,
  mapImage,
  packingRules,
  pagesOf,
  placeText,
  readModules,
  type ImageMap,
  type PackingRule,
  type WordCount,
} from '@calm/core/cyclic'
import { deviceOf, pluggedInto, type Handshake, type ImagePlan, type Job } from '@calm/core/job'
import type { ModuleImage } from '@calm/core/kind'
import { csvText } from '@calm/core/table'
import { parseWholeNumber, type Result } from '@calm/core/units'
import { useState } from 'react'
import { CopyOfWords } from './copyOfWords'
import { ImageTable } from './imageTable'
import { numberText, readOpen, useTyped } from './useTyped'
import type { JobEdit } from '../../edit'
import { Area, Button, Choice, Field, saveText, Toggles } from '../../ui'

const EXAMPLE = ['DI 8: 8 x 1 in', 'AI 2: 2 x 16 in, 2 x 16 out', 'DO 4: 4 x 1 out'].join('\n')

/** What the line-up knows of the row behind a head: the tags in slot order, with the bytes that they add where somebody says them. */
function pluggedIn(job: Job, { deviceId }: Handshake): string {
  const own = new Set(deviceOf(job, deviceId)?.nodes.map(({ lineId }) => lineId))
  const racks = job.lines.filter(({ id, medium }) => medium === 'backplane' && own.has(id))
  const head = deviceOf(job, deviceId)
  const images = new Map((head ? pluggedInto(job, head) : []).map(({ device, image }) => [device.id, image]))
  const inRack = job.devices
    .flatMap(({ id, tag, nodes }) =>
      id === deviceId
        ? []
        : nodes
            .filter(({ lineId }) => racks.some((rack) => rack.id === lineId))
            .map(({ node }) => ({ id, tag, node: node ?? 0 })),
    )
    .sort((a, b) => a.node - b.node)
  const behind = job.devices.filter(({ id }) => images.has(id) && inRack.every((each) => each.id !== id))
  return [...inRack, ...behind].map(({ id, tag }) => `${tag}: ${sizeText(images.get(id))}`).join('\n')
}

/** Bytes as the list of modules writes them; a question mark where nobody says them. */
function sizeText(image: ModuleImage | undefined): string {
  if (!image) return '?'
  const { inputBytes, outputBytes } = image
  return (
    [...(inputBytes > 0 ? [`${inputBytes} x 8 in`] : []), ...(outputBytes > 0 ? [`${outputBytes} x 8 out`] : [])].join(
      ', ',
    ) || '?'
  )
}

type NumberKey = Exclude<keyof ImagePlan, 'packing'>
const labels: Readonly<Record<NumberKey, string>> = {
  statusWords: 'Status words',
  controlWords: 'Control words',
  transferWords: 'Words in one transfer',
  transferMs: 'One transfer every, ms',
  fixedWords: 'Fixed image of the head, words',
}
const numberKeys = Object.keys(labels) as NumberKey[]
const readNumber: Readonly<Record<NumberKey, (text: string) => Result<number | null>>> = {
  statusWords: (text) => parseWholeNumber(text, { name: labels.statusWords, min: 0, max: 500 }),
  controlWords: (text) => parseWholeNumber(text, { name: labels.controlWords, min: 0, max: 500 }),
  transferWords: (text) => readOpen(text, labels.transferWords, 1, 65_536),
  transferMs: (text) => readOpen(text, labels.transferMs, 1, 3_600_000),
  fixedWords: (text) => readOpen(text, labels.fixedWords, 1, 2_000),
}

/** What is typed of an image, kept in the job as far as it can be read. */
function useImage(job: Job, handshake: Handshake, edit: JobEdit) {
  const plan = handshake.image
  const planned = Object.fromEntries(numberKeys.map((key) => [key, numberText(plan[key])])) as Record<NumberKey, string>
  const set = (say: string, fields: Partial<Handshake>) => {
    const sending = edit.set(say, 'handshake', handshake, fields)
    edit.attempt(sending)
    return sending
  }
  const numbers = useTyped(
    planned,
    (key, text) => readNumber[key](text).ok,
    (changed) => {
      const image = Object.fromEntries(
        numberKeys.map((key) => {
          const read = readNumber[key](changed[key] ?? planned[key])
          return [key, read.ok ? read.value : plan[key]]
        }),
      ) as unknown as ImagePlan
      return set('Image of the modules changed.', { image: { ...image, packing: plan.packing } })
    },
  )
  const modules = useTyped(
    { text: handshake.modules || pluggedIn(job, handshake) },
    (_key, text) => readModules(text).ok,
    ({ text = '' }) => set('Modules in slot order changed.', { modules: text.trim() }),
  )
  return {
    numbers,
    modules,
    pack: (packing: PackingRule) => void set('How the head packs changed.', { image: { ...plan, packing } }),
  }
}

/** The modules of a row in slot order, and where each of their values lies in the controller's image. */
export function ModulesView({ job, handshake, edit }: { job: Job; handshake: Handshake; edit: JobEdit }) {
  const tag = deviceOf(job, handshake.deviceId)?.tag ?? ''
  const { numbers, modules: list, pack } = useImage(job, handshake, edit)
  const rule = handshake.image.packing
  const [count, setCount] = useState<WordCount>('bytes')
  const valueOf = (key: NumberKey) => {
    const read = readNumber[key](numbers.texts[key])
    return read.ok ? read.value : undefined
  }
  const [status, control] = [valueOf('statusWords'), valueOf('controlWords')]
  const modules = readModules(list.texts.text)
  const map =
    modules.ok && typeof status === 'number' && typeof control === 'number'
      ? mapImage(modules.value, rule, { inputBytes: 2 * status, outputBytes: 2 * control })
      : undefined
  const most = map && Math.max(map.inputs.words, map.outputs.words)
  const pages = most && pagesOf(most, valueOf('transferWords') ?? 0, 0, valueOf('transferMs') ?? 0)
  const field = (key: NumberKey) => {
    const read = readNumber[key](numbers.texts[key])
    return (
      <Field
        key={key}
        label={labels[key]}
        inputMode="numeric"
        typed
        value={numbers.texts[key]}
        trouble={read.ok ? undefined : read.refusal}
        onChange={(value) => numbers.type(key, value)}
      />
    )
  }
  const save = () => {
    if (!map) return
    const rows = [
      ['Direction', 'Module', 'Slot', 'Value', 'Bits', 'Place', 'Address'],
      ...(['inputs', 'outputs'] as const).flatMap((side) =>
        map[side].channels.map((channel) => [
          side,
          channel.module,
          channel.slot + 1,
          channel.name,
          channel.bits,
          placeText(channel),
          addressOf(channel, side === 'inputs' ? 'input' : 'output', count),
        ]),
      ),
    ]
    saveText(`${tag}-image.csv`, csvText(rows), 'text/csv')
  }
  return (
    <div className="grid grid-cols-[320px_minmax(0,1fr)] gap-7 max-tablet:grid-cols-1">
      <section className="grid content-start gap-3" aria-label="Modules in slot order">
        <div {...list.leaving}>
          <Area
            label="Modules in slot order, one line each"
            typed
            rows={8}
            placeholder={`for example\n${EXAMPLE}`}
            value={list.texts.text}
            onChange={(text) => list.type('text', text)}
          />
        </div>
        {!modules.ok && list.texts.text.trim() !== '' && (
          <p className="text-odds" role="alert">
            {modules.refusal.what} Expected: {modules.refusal.expected}.
          </p>
        )}
        <Choice
          label="How the head packs them"
          value={rule}
          choices={(Object.keys(packingRules) as PackingRule[]).map((value) => ({
            value,
            label: packingRules[value].name,
          }))}
          onChange={pack}
        />
        <p className="-mt-2 note">{packingRules[rule].explain}</p>
        <Toggles
          label="Word addresses count"
          size="small"
          value={count}
          items={[
            { value: 'bytes', say: 'Words by bytes', tip: '%IW2 is bytes 2 and 3' },
            { value: 'words', say: 'Words by words', tip: '%IW1 is bytes 2 and 3' },
          ]}
          onChange={setCount}
        />
        <div className="grid grid-cols-2 gap-2" {...numbers.leaving}>
          {numberKeys.map(field)}
        </div>
        <CopyOfWords handshakeId={handshake.id} />
      </section>
      <section className="grid content-start gap-3" aria-label="Image">
        {map ? (
          <>
            <p className="text-lead" role="status">
              To enter at the controller: <b className="font-heavy">{map.inputs.bytes} bytes in</b> ({map.inputs.words}{' '}
              words), <b className="font-heavy">{map.outputs.bytes} bytes out</b> ({map.outputs.words} words).
            </p>
            {map.stopsAt !== undefined && (
              <p className="text-odds">
                The size of {map.stopsAt} is not known: it and what stands behind it have no place, and both sizes are
                short.
              </p>
            )}
            {pages && (
              <p>
                {pages.pages} page{pages.pages === 1 ? '' : 's'}, {Number(pages.perSecond.toPrecision(3))} a second: all
                are there after {Number(pages.roundMs.toPrecision(4))} ms at least.
              </p>
            )}
            <FixedImage words={valueOf('fixedWords')} map={map} />
            {(['inputs', 'outputs'] as const).map((side) => (
              <ImageTable key={side} side={side} image={map[side]} count={count} />
            ))}
            <p>
              <Button onClick={save}>Image as a table</Button>
            </p>
          </>
        ) : (
          <p className="note">
            {list.texts.text.trim() === ''
              ? 'Not mapped: no module is written down yet.'
              : 'Put right what is written on the left; what was mapped before is not shown.'}
          </p>
        )}
      </section>
    </div>
  )
}

/** What a fixed image carries beside what the modules fill: the program is the same for all heads, and sees the rest as 0. */
function FixedImage({ words, map }: { words: number | null | undefined; map: ImageMap }) {
  if (typeof words !== 'number') return null
  const most = Math.max(map.inputs.words, map.outputs.words)
  if (most > words)
    return (
      <p className="text-odds" data-fixed>
        A fixed image of {words} words is too short: the modules take {map.inputs.words} in and {map.outputs.words} out.
      </p>
    )
  return (
    <p data-fixed>
      At both ends {words} words are entered: {words - map.inputs.words} of the words in and {words - map.outputs.words}{' '}
      of the words out carry nothing. Sized to need it is {map.inputs.words} and {map.outputs.words}.
    </p>
  )
}
