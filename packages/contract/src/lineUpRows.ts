import { requestKinds } from '@calm/core/job'
import Joi from 'joi'
import { day, finite, id, line } from './fields'
import { kindFactsSchema, kindId } from './kindRow'
import { allDeviceFields, allNetworkFields, allPortFields, lineFields, mode, nodeFields, required } from './rows'
import { tag } from './fields'

const octet = Joi.number().integer().min(0).max(255).strict()
export const addressRule = Joi.object({
  kind: kindId.required(),
  first: octet.required(),
  last: octet.min(Joi.ref('first')).required(),
})

export const requestFields = {
  about: Joi.valid(...Object.keys(requestKinds)),
  what: line.min(2).max(200),
  toWhom: line.allow(''),
  deviceIds: Joi.array().items(id).max(5000).unique(),
  askedOn: day.allow(null),
  dueOn: day.allow(null),
  answer: Joi.string().trim().max(4000).allow(''),
  answeredOn: day.allow(null),
}

export const acceptanceFields = {
  rule: Joi.string().max(60),
  subjectId: id,
  found: Joi.string().max(600).allow(''),
  reason: line.min(3).max(400),
}

const jobFields = {
  name: tag.max(80),
  place: line.allow(''),
  mode,
  addressRules: Joi.array().items(addressRule).max(200).unique('kind'),
}

/** Fields of each table that a change list may set, and what a new row must have. */
export const tableFields = {
  job: { set: jobFields, add: undefined },
  network: { set: allNetworkFields, add: required(allNetworkFields) },
  line: { set: lineFields, add: required(lineFields) },
  device: {
    set: { ...allDeviceFields, position: finite.min(0) },
    add: required({ ...allDeviceFields, position: finite.min(0) }),
  },
  port: { set: allPortFields, add: { ...required(allPortFields), deviceId: id.required() } },
  node: { set: nodeFields, add: { ...required(nodeFields), deviceId: id.required() } },
  kind: { set: { facts: kindFactsSchema }, add: { facts: kindFactsSchema.required() } },
  request: { set: requestFields, add: required(requestFields) },
  acceptance: { set: { reason: acceptanceFields.reason }, add: required(acceptanceFields) },
} as const
