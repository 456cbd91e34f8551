import { howWords, subjectKinds, type EvidenceFact, type FactKind } from '@calm/core/evidence'
import { byteOrders, dataTypes } from '@calm/core/values'
import Joi from 'joi'
import { finite, id, instant, line, mode, rung } from './fields'
import { schemaOf } from './rowSchemas'
import { pointFields } from '@calm/core/job'

const keys = (record: object) => Object.keys(record)
const words = (most = 600) => Joi.string().trim().max(most).allow('').required()
const flag = Joi.boolean().strict().required()
const hex = Joi.string()
  .max(4_000)
  .pattern(/^[0-9A-Fa-f ]*$/, 'bytes in hexadecimal letters')
  .allow('')
  .required()

const format = Joi.object({
  type: Joi.valid(...keys(dataTypes)).required(),
  order: Joi.valid(...keys(byteOrders)).required(),
  bit: Joi.number().integer().min(0).max(15).strict(),
  registers: Joi.number().integer().min(1).max(125).strict(),
})

/** What each kind of fact holds. */
const factFields: Readonly<Record<FactKind, Joi.SchemaMap>> = {
  text: { text: words() },
  point: {
    tag: words(40),
    quantity: words(120),
    unit: words(20),
    decimals: Joi.number().integer().min(0).max(9).strict().required(),
  },
  reading: {
    place: words(120),
    source: Joi.valid('live', 'held', 'typed').required(),
    value: finite.allow(null).required(),
    words: Joi.array().items(Joi.number().integer().min(0).max(0xffff).strict()).max(125).allow(null).required(),
    at: instant.allow(null).required(),
    asked: words(120),
    request: hex,
    answer: hex,
    milliseconds: finite.min(0).allow(null).required(),
    format,
    scale: finite,
    offset: finite,
  },
  reference: { value: finite.required(), origin: words(120), tolerance: schemaOf(pointFields.tolerance).required() },
  step: { step: words(120), ok: flag, what: words() },
  asked: { at: words(120), answered: flag },
  identity: { name: words(120), text: words() },
  term: { term: words(60), controller: words(120), device: words(120), state: words(60) },
  lamp: { lamp: words(60), pattern: words(120) },
  file: {
    name: words(255),
    bytes: Joi.number().integer().min(0).strict().required(),
    sha256: Joi.string()
      .pattern(/^[0-9a-f]{64}$/, 'a SHA-256 in small hexadecimal letters')
      .required(),
  },
  quantity: { name: words(120), value: finite.required(), unit: words(20), instrument: words(120) },
}

const fact = Joi.alternatives<EvidenceFact>().conditional('.kind', {
  switch: Object.entries(factFields).map(([is, fields]) => ({
    is,
    then: Joi.object({ kind: Joi.required(), ...fields }),
  })),
  otherwise: Joi.object({ kind: Joi.valid(...keys(factFields)).required() }).unknown(),
})

const who = line.max(60).required()
const seen = {
  id: id.required(),
  rung: rung.required(),
  verdict: Joi.valid('proven', 'at-odds').required(),
  who,
  at: instant.required(),
  how: Joi.valid(...keys(howWords)).required(),
  basis: Joi.object().pattern(Joi.string().max(60), Joi.string().max(400).allow('')).max(60).required(),
  mode: mode.required(),
}

/** Evidence as it stands in a job file: what it is about, and its facts. */
export const evidenceInFile = Joi.object({
  ...seen,
  subject: Joi.object({ kind: Joi.valid(...subjectKinds).required(), id: id.required() }).required(),
  facts: Joi.array().items(fact).max(200).required(),
})

/** Evidence as files up to version 3 have it: in its handshake, in sentences. */
export const evidenceBefore4 = Joi.object({
  ...seen,
  value: line.max(600).required(),
  detail: Joi.array().items(Joi.string().max(600).allow('')).max(40).required(),
})
