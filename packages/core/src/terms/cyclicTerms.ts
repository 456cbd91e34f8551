import { ok, refusal, type Result } from '../units'
import { exchangeOf } from './exchanges'
import { on } from './applying'
import { choiceTerm, customTerm, quantityTerm } from './makeTerm'
import { aloneApart, equal, fits, setTo, type Told } from './relations'
import type { TermContext, TermDefinition, TermId } from './term'

const request = 'request' as const
const PRACTICE = 'common practice, no source'

/** A size as it is entered: in words of 16 bits, or in bytes. */
export interface ImageSize {
  readonly bytes: number
  readonly unit: 'words' | 'bytes'
}

/** More is no image that any exchange carries in one connection. */
const MOST_BYTES = 1444

/** Reads `62 words`, `124 bytes`, `none`. A bare number is asked back: words and bytes are mixed up most of all. */
export function readSize(text: string, name: string): Result<ImageSize> {
  const typed = text.trim()
  if (/^none$/i.test(typed)) return ok({ bytes: 0, unit: 'words' })
  const found = /^(\d+)\s*(words?|w|bytes?|b)?$/i.exec(typed)
  const expected = `for example 62 words, 124 bytes, or none`
  if (!found) return refusal('size.form', `${name} "${typed}" is no size.`, typed, expected)
  const [, digits = '', given] = found
  const count = Number(digits)
  if (count === 0)
    return refusal('size.zero', `${name} of 0: nothing goes this way.`, typed, expected, [
      { label: 'Say none', value: 'none' },
    ])
  if (given === undefined)
    return refusal('size.unit', `${typed}: words or bytes?`, typed, expected, [
      { label: `${count} words`, value: `${count} words` },
      { label: `${count} bytes`, value: `${count} bytes` },
    ])
  const unit = /^w/i.test(given) ? 'words' : 'bytes'
  const bytes = unit === 'words' ? 2 * count : count
  if (bytes > MOST_BYTES)
    return refusal(
      'size.range',
      `${name} of ${bytes} bytes is more than one connection carries.`,
      typed,
      `at most ${MOST_BYTES} bytes`,
    )
  return ok({ bytes, unit })
}

export const sizeText = ({ bytes, unit }: ImageSize): string =>
  bytes === 0 ? 'none' : unit === 'words' ? counted(Math.ceil(bytes / 2), 'word') : counted(bytes, 'byte')

const counted = (count: number, of: string) => `${count} ${of}${count === 1 ? '' : 's'}`

/** What one station of an exchange carries each way, in bytes. */
function mostOf(context: TermContext): { readonly bytes: number; readonly source: string } {
  return exchangeOf(context) === 'bus'
    ? { bytes: 244, source: 'IEC 61158 type 3: 244 bytes each way for a station' }
    : { bytes: 511, source: 'the usual size field of a connection has 9 bits, from memory' }
}

/** How many words of status stand in front of, or behind, the data at the controller. */
function statusWords({ terms }: TermContext, id: TermId): number {
  const text = terms[id]?.device?.text ?? terms[id]?.controller?.text ?? ''
  const found = /^\d+/.exec(text.trim())
  return found ? Number(found[0]) : 0
}

/** A size of one direction: the controller's is the device's and the words of status on top of it. */
function sizeTerm(
  id: 'input-size' | 'output-size' | 'config-size',
  name: string,
  status: TermId | undefined,
  explain: string,
): TermDefinition<ImageSize> {
  const told: Told = {
    id,
    name,
    group: request,
    explain,
    relation: status ? 'controller = device + status words' : 'equal',
    why: 'With another size the connection is refused, or every value behind the difference is shifted.',
    applies: on('cyclic', 'bus'),
    asked: on('cyclic'),
    source: PRACTICE,
  }
  return {
    ...told,
    relation: told.relation ?? '',
    severity: 'never',
    example: '62 words',
    parse: (entry) => readSize(entry.text, name),
    format: sizeText,
    alone: (size, end, context) => {
      const most = mostOf(context)
      return size.bytes > most.bytes
        ? aloneApart(end, `${size.bytes} bytes one way; ${most.bytes} is the most (${most.source}).`, context)
        : undefined
    },
    agree: (controller, device, context) => {
      const extra = status ? 2 * statusWords(context, status) : 0
      const wanted = device.bytes === 0 ? extra : device.bytes + extra
      // The controller counts in its own unit: an odd byte is one word more.
      const rounded = controller.unit === 'words' ? 2 * Math.ceil(wanted / 2) : wanted
      const sum = `${sizeText(device)}${extra > 0 ? ` and ${counted(extra / 2, 'status word')}` : ''}`
      if (controller.bytes === rounded) {
        if (extra === 0 && rounded === wanted)
          return controller.unit === device.unit ? equal : fits(`${sizeText(device)} is ${sizeText({ ...controller })}`)
        return fits(rounded === wanted ? sum : `${sum}, rounded up to whole words`)
      }
      const asked = sizeText({ bytes: rounded, unit: controller.unit })
      const back = Math.max(0, controller.bytes - extra)
      const other = sizeText({ bytes: back, unit: device.unit })
      return {
        state: 'at-odds',
        why: `${context.tags.device} has ${sum}: ${asked} at ${context.tags.controller}, which has ${sizeText(controller)}. ${told.why}`,
        fixes: [
          setTo('controller', asked, asked, context),
          ...(back > 0 ? [setTo('device', other, other, context)] : []),
        ],
      }
    },
  }
}

export const inputSizeTerm = sizeTerm(
  'input-size',
  'Input size',
  'input-status',
  'What comes from the device to the controller, in words or bytes.',
)
export const outputSizeTerm = sizeTerm(
  'output-size',
  'Output size',
  'output-status',
  'What goes from the controller to the device, in words or bytes.',
)
export const configSizeTerm: TermDefinition<ImageSize> = {
  ...sizeTerm(
    'config-size',
    'Configuration size',
    undefined,
    'What the controller sends once when the connection opens.',
  ),
  asked: () => false,
}

const statusTerm = (id: 'input-status' | 'output-status', name: string, explain: string) =>
  quantityTerm({
    id,
    name,
    group: request,
    explain,
    why: 'Counted at one end only, every value is shifted by them.',
    applies: on('cyclic', 'bus'),
    field: { name, unit: 'words', units: { word: 1 }, least: 0, most: 64, whole: true },
    example: '2 words',
    source:
      '60 data words need 62 input words and 61 output words in one common module family: common practice, no source',
  })
export const inputStatusTerm = statusTerm(
  'input-status',
  'Status words in',
  'Words beside the data that come with the inputs: state, errors, run or idle.',
)
export const outputStatusTerm = statusTerm(
  'output-status',
  'Control words out',
  'Words beside the data that go with the outputs.',
)

export const imageTerm = choiceTerm({
  id: 'image',
  name: 'Image',
  group: request,
  explain: 'Fixed at the largest size, one program for all; or sized to need, lean, and equal at both ends.',
  words: { fixed: 'fixed', sized: 'sized to need' },
  why: 'A fixed image against a sized one: sizes that never meet.',
  applies: on('cyclic'),
  source: PRACTICE,
})

export const dataFormatTerm = choiceTerm({
  id: 'data-format',
  name: 'Data format',
  group: 'words',
  explain: 'How the image is cut into elements: the same bytes as bytes, words, double words or reals.',
  words: { byte: 'bytes', word: 'words', dword: 'double words', real: 'reals', structure: 'typed structure' },
  also: { sint: 'byte', usint: 'byte', int: 'word', uint: 'word', dint: 'dword', udint: 'dword', float: 'real' },
  why: 'The sizes count other elements, and values lie elsewhere.',
  applies: on('cyclic'),
  asked: on('cyclic'),
  source: 'IEC 61131-3 table 10 for the names of types',
})

export const byteOrderTerm = choiceTerm({
  id: 'byte-order',
  name: 'Byte order',
  group: 'words',
  explain: 'Which byte of a word comes first: as the device sends it, and as the controller takes it.',
  words: { 'high-first': 'high byte first', 'low-first': 'low byte first' },
  also: {
    big: 'high-first',
    'big-endian': 'high-first',
    swapped: 'low-first',
    little: 'low-first',
    'little-endian': 'low-first',
  },
  why: '1 reads as 256: every value looks random.',
  severity: 'wrong',
  applies: on('cyclic', 'bus', 'command'),
  source: PRACTICE,
})

export const signatureTerm = customTerm<string>({
  id: 'signature',
  name: 'Configuration signature',
  group: 'names',
  explain: 'A number made of the configuration of an end. Who equalises it, and how, the set-up tool says.',
  why: 'Where both must match, the connection is refused until one end takes over the other configuration.',
  applies: on('cyclic'),
  source: PRACTICE,
  relation: 'equal, or not compared',
  example: '4F2A',
  parse: (entry) => {
    const typed = entry.text.trim().replace(/^0x/i, '').replace(/[\s_]/g, '').toUpperCase()
    if (/^(ANY|NOTCOMPARED)$/.test(typed)) return ok('any')
    return /^[0-9A-F]{1,16}$/.test(typed)
      ? ok(typed)
      : refusal('term.signature', `"${entry.text.trim()}" is no signature.`, entry.text, 'hexadecimal digits, or any')
  },
  format: (value) => (value === 'any' ? 'not compared' : value),
  agree: (controller, device, context) => {
    if (controller === 'any' || device === 'any') return fits('Not compared: a changed configuration is not noticed')
    return controller === device
      ? equal
      : {
          state: 'at-odds',
          why: `${controller} in the project, ${device} in the device: one of them was configured after the other took it over.`,
          fixes: [setTo('controller', device, device, context)],
        }
  },
})
