import { nodeFamilies } from '@calm/core/bus'
import { deviceRoles, restartRules, waysOfSetting, type DeviceKindFacts } from '@calm/core/kind'
import { rungs } from '@calm/core/ladder'
import Joi from 'joi'
import { address, finite, line } from './fields'

const keys = (record: object) => Object.keys(record)
const octet = Joi.number().integer().min(0).max(255).strict()
const seconds = Joi.number().integer().min(0).max(86_400).strict()
const sentence = line.min(1).max(200)
const sentences = Joi.array().items(sentence).max(40)
const colour = Joi.string().valid('green', 'amber', 'red', 'blue', 'white')
const hertz = finite.greater(0).max(20)

const pattern = Joi.alternatives().try(
  Joi.object({ shape: Joi.valid('off').required() }),
  Joi.object({ shape: Joi.valid('steady').required(), colour: colour.required() }),
  Joi.object({ shape: Joi.valid('flashing').required(), colour: colour.required(), hertz: hertz.required() }),
  Joi.object({
    shape: Joi.valid('in-turn').required(),
    colours: Joi.array().items(colour).min(2).max(4).required(),
    hertz: hertz.required(),
  }),
  Joi.object({ shape: Joi.valid('shows').required(), text: line.min(1).max(20).required() }),
)

export const kindId = Joi.string()
  .max(40)
  .pattern(/^[a-z0-9]+(-[a-z0-9]+)*$/, 'small letters, digits and hyphens')

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
  defaultAddress: Joi.alternatives()
    .try(
      Joi.object({
        kind: Joi.valid('fixed').required(),
        address: address.required(),
        prefix: Joi.number().integer().min(1).max(32).strict().required(),
      }),
      Joi.object({ kind: Joi.valid('lease', 'none').required() }),
    )
    .required(),
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
  lamps: Joi.array()
    .items(
      Joi.object({ lamp: line.min(1).max(40).required(), pattern: pattern.required(), means: sentence.required() }),
    )
    .max(40)
    .required(),
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
})
