import Joi from 'joi'
import { finite, id, instant, line, tag, version } from '../fields'
import {
  deviceFields,
  end,
  laterDeviceFields,
  laterNetworkFields,
  lineFields,
  nodeFields,
  mode,
  networkFields,
  pointFields,
  laterPortFields,
  portFields,
  required,
  rung,
  termFields,
  termId,
} from '../rows'
import { acceptanceFields, addressRule, requestFields } from '../lineUpRows'
import { kindFactsSchema } from '../kindRow'
import { walkInFile } from '../walk'
import { JOB_FORMAT, JOB_FORMAT_VERSION } from './jobFile'

const row = (fields: Readonly<Record<string, Joi.Schema>>) =>
  Joi.object({ id: id.required(), version: version.required(), ...required(fields) })

const who = line.max(60).required()
const how = Joi.valid('read-live', 'typed', 'seen', 'measured').required()

const evidence = Joi.object({
  id: id.required(),
  rung: rung.required(),
  verdict: Joi.valid('proven', 'at-odds').required(),
  who,
  at: instant.required(),
  how,
  value: line.max(600).required(),
  basis: Joi.object().pattern(Joi.string().max(60), Joi.string().max(400).allow('')).max(60).required(),
  mode: mode.required(),
  detail: Joi.array().items(Joi.string().max(600).allow('')).max(40).required(),
})

const decision = Joi.object({
  id: id.required(),
  rung: rung.required(),
  state: Joi.valid('parked', 'not-apply', 'waiting', 'in-hand', 'none').required(),
  reason: line.max(400).allow('').required(),
  who,
  at: instant.required(),
})

const position = finite.min(0).required()
const list = (item: Joi.Schema, most: number) => Joi.array().items(item).max(most).required()
/** Lists that files of version 1 do not have. */
const later = (item: Joi.Schema, most: number) => Joi.array().items(item).max(most).default([])

const handshake = Joi.object({
  id: id.required(),
  version: version.required(),
  position,
  name: line.required(),
  controllerId: id.required(),
  deviceId: id.required(),
  terms: list(row({ ...termFields, termId, end }), 100),
  points: list(row(pointFields), 10_000),
  evidence: list(evidence, 10_000),
  decisions: list(decision, 10_000),
})

const forced = Joi.object({
  id: id.required(),
  version: version.required(),
  where: line.required(),
  value: line.required(),
  who,
  at: instant.required(),
  releasedBy: line.allow(null).required(),
  releasedAt: instant.allow(null).required(),
})

/** The whole file, field by field; a field that is not documented is a problem, so that nothing is lost silently. */
export const jobFileSchema = Joi.object({
  format: Joi.valid(JOB_FORMAT).required(),
  version: Joi.valid(1, 2, JOB_FORMAT_VERSION).required(),
  exportedAt: Joi.string().isoDate().required(),
  firstContact: walkInFile,
  job: Joi.object({
    id: id.required(),
    version: version.required(),
    name: tag.max(80).required(),
    place: line.allow('').required(),
    mode: mode.required(),
    networks: list(row(networkFields).keys(laterNetworkFields), 200),
    lines: later(row(lineFields), 500),
    devices: list(
      row({ ...deviceFields, position, ports: list(row(portFields).keys(laterPortFields), 20) }).keys({
        ...laterDeviceFields,
        nodes: later(row(nodeFields), 40),
      }),
      5_000,
    ),
    handshakes: list(handshake, 5_000),
    forced: list(forced, 5_000),
    addressRules: later(addressRule, 200),
    kinds: later(row({ facts: kindFactsSchema }), 200),
    requests: later(row(requestFields), 5_000),
    acceptances: later(row({ ...acceptanceFields, who, at: instant }), 10_000),
  }).required(),
})
