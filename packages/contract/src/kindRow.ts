import { nodeFamilies } from '@calm/core/bus'
import { deviceRoles, restartRules, waysOfSetting, type DeviceKindFacts } from '@calm/core/kind'
import { rungs } from '@calm/core/ladder'
import { readMirror, termDefinition, termIds, type TermId } from '@calm/core/terms'
import { menuValues, wakeKeys, type MenuFacts } from '@calm/core/menu'
import Joi from 'joi'
import { address, finite, line, textReadBy } from './fields'
import { filledLine } from './filledLine'
import { placeSchema } from './place'

const keys = (record: object) => Object.keys(record)
const imageBytes = Joi.number().integer().min(0).max(2000).strict()
const octet = Joi.number().integer().min(0).max(255).strict()
const seconds = Joi.number().integer().min(0).max(86_400).strict()
const sentence = line.min(1).max(200)
const sentences = Joi.array().items(sentence).max(40)
const colour = Joi.string().valid('green', 'amber', 'red', 'blue', 'white')
const hertz = finite.greater(0).max(20)

/** One schema by what `shape` or `kind` says, so that a problem is told at its own field. */
const byShape = (key: string, schemas: Readonly<Record<string, Joi.ObjectSchema>>) =>
  Joi.alternatives().conditional(`.${key}`, {
    switch: Object.entries(schemas).map(([is, then]) => ({ is, then })),
    otherwise: Joi.object({ [key]: Joi.valid(...Object.keys(schemas)).required() }).unknown(),
  })

const severalColours = {
  shape: Joi.required(),
  colours: Joi.array().items(colour).min(2).max(4).required(),
  hertz: hertz.required(),
}

const plainPatterns = {
  off: Joi.object({ shape: Joi.required() }),
  steady: Joi.object({ shape: Joi.required(), colour: colour.required() }),
  flashing: Joi.object({ shape: Joi.required(), colour: colour.required(), hertz: hertz.required() }),
  'in-turn': Joi.object(severalColours),
  together: Joi.object(severalColours),
  shows: Joi.object({ shape: Joi.required(), text: line.min(1).max(20).required() }),
}

const pattern = byShape('shape', {
  ...plainPatterns,
  either: Joi.object({
    shape: Joi.required(),
    of: Joi.array().items(byShape('shape', plainPatterns)).min(2).max(4).required(),
  }),
})

/** One lamp or display, one pattern of it, and what that means. */
export const lampMeaning = Joi.object({
  lamp: line.min(1).max(40).required(),
  pattern: pattern.required(),
  means: sentence.required(),
  trouble: Joi.boolean().strict(),
})

const defaultAddress = byShape('kind', {
  fixed: Joi.object({
    kind: Joi.required(),
    address: address.required(),
    prefix: Joi.number().integer().min(1).max(32).strict().required(),
  }),
  lease: Joi.object({ kind: Joi.required() }),
  none: Joi.object({ kind: Joi.required() }),
})

export const kindId = Joi.string()
  .max(40)
  .pattern(/^[a-z0-9]+(-[a-z0-9]+)*$/, 'small letters, digits and hyphens')

const prompt = line.min(1).max(80)
const answers = Joi.array()
  .items(Joi.object({ prompt: prompt.required(), answer: filledLine(80).allow('').required() }))
  .max(20)

/** A menu over a serial socket: prompts, and what is typed at each. */
const menu = Joi.object<MenuFacts>({
  line: line.pattern(/^\d{2,7} [5-8][NEO][12]$/, 'as 9600 8N1').required(),
  wake: Joi.valid(...keys(wakeKeys)).required(),
  logIn: Joi.array().items(prompt).max(6).required(),
  home: prompt.required(),
  back: answers.required(),
  tasks: Joi.array()
    .items(
      Joi.object({
        id: kindId.required(),
        name: line.min(2).max(60).required(),
        answers: answers.min(1).required(),
        shows: prompt,
        refuses: Joi.array().items(prompt).max(10),
        ends: Joi.boolean().strict(),
      }),
    )
    .unique('id')
    .max(20)
    .required(),
  reads: Joi.array()
    .items(Joi.object({ label: line.min(2).max(40).required(), is: Joi.valid(...keys(menuValues)).required() }))
    .max(20)
    .required(),
})

/** Where a setting is mirrored. */
export const mirrorText = textReadBy(readMirror, 400)

/** A value of a term as the end of a device reads it. */
function readAsTerm(text: string, helpers: Joi.CustomHelpers): unknown {
  const id = helpers.state.path?.at(-1) as TermId
  const read = termDefinition(id).parse({ text, origin: '' }, { terms: {}, end: 'device' })
  return read.ok
    ? text
    : helpers.error('term.unread', { what: `${read.refusal.what} Expected ${read.refusal.expected}` })
}

/** A kind of device, field by field. The same for a kind file and for a job's own kinds. */
export const kindFactsSchema = Joi.object<DeviceKindFacts>({
  id: kindId.required(),
  name: line.min(2).max(60).required(),
  role: Joi.valid(...keys(deviceRoles)).required(),
  block: Joi.array()
    .items(octet)
    .length(2)
    .custom((block: readonly [number, number], helpers) =>
      block[0] <= block[1] ? block : helpers.error('block.order', { first: block[0], last: block[1] }),
    )
    .messages({ 'block.order': 'The block ends at {{#last}}, before it begins at {{#first}}' })
    .required(),
  notApplying: Joi.array()
    .items(Joi.valid(...rungs.map((rung) => rung.id)))
    .unique()
    .required(),
  defaultAddress: defaultAddress.required(),
  defaultNode: Joi.object({
    family: Joi.valid(...nodeFamilies.map((family) => family.id)).required(),
    node: Joi.number().integer().min(0).max(255).strict().allow(null).required(),
    nodeCount: Joi.number().integer().min(1).max(16).strict().required(),
    isMaster: Joi.boolean().strict().required(),
  })
    .allow(null)
    .required(),
  setting: Joi.valid(...keys(waysOfSetting)).required(),
  effective: Joi.valid(...keys(restartRules)).required(),
  startUpSeconds: seconds.required(),
  handsOnSeconds: seconds.required(),
  lamps: Joi.array().items(lampMeaning).max(40).required(),
  sockets: Joi.array()
    .items(
      Joi.object({
        name: line.min(1).max(40).required(),
        use: sentence.required(),
        looksLikeNetwork: Joi.boolean().strict().required(),
        isNetwork: Joi.boolean().strict().required(),
      }),
    )
    .max(20)
    .required(),
  limits: sentences.required(),
  beforePower: sentences.required(),
  measuredBefore: sentences,
  terms: Joi.object()
    .pattern(Joi.valid(...termIds), line.min(1).max(60).custom(readAsTerm).messages({ 'term.unread': '{{#what}}' }))
    .messages({ 'object.unknown': 'There is no term {{#child}}' }),
  points: Joi.array()
    .items(
      Joi.object({
        quantity: line.min(1).max(120).required(),
        unit: line.max(20).allow('').required(),
        decimals: Joi.number().integer().min(0).max(9).strict().required(),
        place: placeSchema.allow(null).required(),
      }),
    )
    .max(200),
  usual: Joi.array()
    .items(
      Joi.object({
        quantity: line.min(1).max(120).required(),
        unit: line.max(20).allow('').required(),
        decimals: Joi.number().integer().min(0).max(9).strict().required(),
      }),
    )
    .max(100),
  mirrors: Joi.object()
    .pattern(Joi.valid(...termIds), mirrorText)
    .messages({ 'object.unknown': 'There is no term {{#child}}' }),
  image: Joi.object({ inputBytes: imageBytes.required(), outputBytes: imageBytes.required() }),
  describedBy: Joi.object({
    product: line.max(120).allow('').required(),
    orderCode: line.min(1).max(60),
    revision: line.min(1).max(40),
    fileRevision: line.min(1).max(40),
    nodes: Joi.array().items(octet).length(2),
    rates: Joi.array().items(Joi.number().integer().min(1).max(100_000_000).strict()).max(20).required(),
    modules: Joi.array()
      .items(
        Joi.object({
          name: line.min(1).max(80).required(),
          inputBytes: imageBytes.required(),
          outputBytes: imageBytes.required(),
        }),
      )
      .max(500)
      .required(),
  }),
  menu,
})
