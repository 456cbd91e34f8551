import {
  addressOf,
  copyTrouble,
  mapImage,
  packingRules,
  pagesOf,
  piecesOf,
  piecesText,
  placeText,
  readModules,
  type Image,
  type ImageMap,
  type MappedChannel,
  type PackingRule,
  type WordCount,
} from '@calm/core/cyclic'
import { deviceOf, pluggedInto, type Handshake, type Job } from '@calm/core/job'
import type { ModuleImage } from '@calm/core/kind'
import { parseWholeNumber } from '@calm/core/units'
import { csvText } from '@calm/core/table'
import { useState } from 'react'
import { useKept } from './useKept'
import { Area, Button, Choice, DataTable, Field, saveText, Toggles, type TableColumn } from '../../ui'

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

/** The modules of a row in slot order, and where each of their values lies in the controller's image. */
export function ModulesView({ job, handshake }: { job: Job; handshake: Handshake }) {
  const tag = deviceOf(job, handshake.deviceId)?.tag ?? ''
  const kept = (what: string) => `${what}.${handshake.id}`
  const [text, setText] = useKept(kept('modules'), pluggedIn(job, handshake))
  const [rule, setRule] = useKept<PackingRule>(kept('packing'), 'bytes')
  const [count, setCount] = useState<WordCount>('bytes')
  const [typed, setTyped] = useKept(kept('image'), {
    status: '0',
    control: '0',
    block: '',
    every: '',
    fixed: '',
    bitsHere: '16',
    lengthHere: '',
    bitsThere: '16',
    lengthThere: '',
  })
  const words = (name: string, value: string) => parseWholeNumber(value, { name, min: 0, max: 500 })
  const [status, control] = [words('Status words', typed.status), words('Control words', typed.control)]
  const modules = readModules(text)
  const map =
    modules.ok && status.ok && control.ok
      ? mapImage(modules.value, rule, { inputBytes: 2 * status.value, outputBytes: 2 * control.value })
      : undefined
  const [block, every] = [Number(typed.block), Number(typed.every)]
  const pages = map && pagesOf(Math.max(map.inputs.words, map.outputs.words), block, 0, every)
  const field = (key: keyof typeof typed, label: string, read?: { readonly ok: boolean }) => (
    <Field
      label={label}
      inputMode="numeric"
      typed
      value={typed[key]}
      trouble={read && !read.ok ? { what: `${label}: a whole number from 0 to 500.`, expected: '' } : undefined}
      onChange={(value) => setTyped({ ...typed, [key]: value })}
    />
  )
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
        <Area
          label="Modules in slot order, one line each"
          typed
          rows={8}
          placeholder={EXAMPLE}
          value={text}
          onChange={setText}
        />
        {!modules.ok && (
          <p className="text-odds" role="alert">
            {modules.refusal.what} Expected: {modules.refusal.expected}.
          </p>
        )}
        <Choice
          label="How the head packs them"
          value={rule}
          choices={(Object.keys(packingRules) as PackingRule[]).map((value) => ({
            value,
            label: `${packingRules[value].name}: ${packingRules[value].explain}`,
          }))}
          onChange={setRule}
        />
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
        <div className="grid grid-cols-2 gap-2">
          {field('status', 'Status words', status)}
          {field('control', 'Control words', control)}
          {field('block', 'Words in one transfer')}
          {field('every', 'One transfer every, ms')}
          {field('fixed', 'Fixed image of the head, words')}
        </div>
        <fieldset className="grid grid-cols-2 gap-2 border-t border-rule pt-2">
          <legend className="font-heavy">A copy of many words</legend>
          {field('bitsHere', 'Bits of an element, from')}
          {field('lengthHere', 'Elements, from')}
          {field('bitsThere', 'Bits of an element, to')}
          {field('lengthThere', 'Elements, to')}
          <p className="col-span-2" role="status" aria-label="The copy">
            <CopyVerdict from={[typed.bitsHere, typed.lengthHere]} to={[typed.bitsThere, typed.lengthThere]} />
          </p>
        </fieldset>
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
            <FixedImage typed={typed.fixed} map={map} />
            {(['inputs', 'outputs'] as const).map((side) => (
              <ImageTable key={side} side={side} image={map[side]} count={count} />
            ))}
            <p>
              <Button onClick={save}>Image as a table</Button>
            </p>
          </>
        ) : (
          <p className="note">Put right what is written on the left; what was mapped before is not shown.</p>
        )}
      </section>
    </div>
  )
}

/** What a fixed image carries beside what the modules fill: the program is the same for all heads, and sees the rest as 0. */
function FixedImage({ typed, map }: { typed: string; map: ImageMap }) {
  if (typed.trim() === '') return null
  const fixed = parseWholeNumber(typed, { name: 'Fixed image', min: 1, max: 2000 })
  if (!fixed.ok) return <p className="text-odds">{fixed.refusal.what}</p>
  const most = Math.max(map.inputs.words, map.outputs.words)
  if (most > fixed.value)
    return (
      <p className="text-odds" data-fixed>
        A fixed image of {fixed.value} words is too short: the modules take {map.inputs.words} in and{' '}
        {map.outputs.words} out.
      </p>
    )
  return (
    <p data-fixed>
      At both ends {fixed.value} words are entered: {fixed.value - map.inputs.words} of the words in and{' '}
      {fixed.value - map.outputs.words} of the words out carry nothing. Sized to need it is {map.inputs.words} and{' '}
      {map.outputs.words}.
    </p>
  )
}

/** Whether two sides of a copy go together; nothing is said before all four numbers are there. */
function CopyVerdict({ from, to }: { from: readonly [string, string]; to: readonly [string, string] }) {
  const side = ([bits, length]: readonly [string, string]) => {
    const [elementBits, elements] = [
      parseWholeNumber(bits, { name: 'Bits of an element', min: 1, max: 64 }),
      parseWholeNumber(length, { name: 'Elements', min: 1, max: 65_536 }),
    ]
    return elementBits.ok && elements.ok ? { elementBits: elementBits.value, length: elements.value } : undefined
  }
  const [here, there] = [side(from), side(to)]
  if (!here || !there)
    return <span className="note">Not compared: bits and numbers of elements of both sides are needed.</span>
  const trouble = copyTrouble(here, there)
  return trouble === undefined ? (
    <span>
      Equal: {here.length} elements of {here.elementBits} bits on both sides.
    </span>
  ) : (
    <span className="text-odds">{trouble}</span>
  )
}

function ImageTable({ side, image, count }: { side: 'inputs' | 'outputs'; image: Image; count: WordCount }) {
  const columns: readonly TableColumn<MappedChannel>[] = [
    { id: 'module', head: 'Module', cell: ({ module, slot }) => `${slot + 1} ${module}`, width: 120 },
    { id: 'name', head: 'Value', cell: ({ name }) => name, width: 90 },
    { id: 'place', head: 'Place', cell: (channel) => placeText(channel), width: 240 },
    {
      id: 'address',
      head: 'Address',
      cell: (channel) => (
        <span className="font-typed">{addressOf(channel, side === 'inputs' ? 'input' : 'output', count)}</span>
      ),
      width: 110,
    },
    {
      id: 'rebuild',
      head: 'Straddles words',
      cell: (channel) =>
        channel.straddles && (
          <span className="font-typed text-note text-odds">{piecesText(piecesOf(channel, 'low'))}</span>
        ),
      width: 260,
    },
  ]
  if (image.channels.length === 0) return <p className="note">No {side}.</p>
  return (
    <div>
      <h2 className="font-heavy capitalize">{side}</h2>
      <DataTable
        name={`image-${side}`}
        caption={`Image of ${side}`}
        columns={columns}
        rows={image.channels}
        keyOf={({ slot, name, byte, bit }) => `${slot} ${name} ${byte} ${bit}`}
      />
    </div>
  )
}
