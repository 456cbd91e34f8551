import { nodeFamilies } from '@calm/core/bus'
import {
  blankDevice,
  lineMedia,
  schools,
  type Device,
  type DeviceNode,
  type ForcedValue,
  type Handshake,
  type Line,
  type Mode,
  type Network,
  type Point,
  type Port,
  type Term,
} from '@calm/core/job'
import { restartRules, waysOfSetting } from '@calm/core/kind'
import { rungs } from '@calm/core/ladder'
import { limits, notations } from '@calm/core/modbus'
import { termCatalogue } from '@calm/core/terms'
import { byteOrders, dataTypes, type Tolerance } from '@calm/core/values'
import Joi from 'joi'
import { address, cidr, finite, id, line, mac, ranges, tag, version } from './fields'
import { kindId } from './kindRow'

const keys = <K extends string>(record: Readonly<Record<K, unknown>>) => Object.keys(record) as K[]

export const mode = Joi.string<Mode>().valid('plant', 'bench')
export const kind = kindId
const school = Joi.valid(...keys(schools))
export const rung = Joi.string().valid(...rungs.map((each) => each.id))
export const end = Joi.string().valid('controller', 'device')
export const termId = Joi.string().valid(...termCatalogue.map((term) => term.id))
export const notation = Joi.string().valid(...keys(notations))
export const dataType = Joi.string().valid(...keys(dataTypes))
export const byteOrder = Joi.string().valid(...keys(byteOrders))

export const tolerance = Joi.alternatives<Tolerance>().try(
  Joi.object({ kind: Joi.valid('absolute').required(), amount: finite.min(0).required() }),
  Joi.object({ kind: Joi.valid('percent-of-reading').required(), percent: finite.min(0).max(100).required() }),
  Joi.object({
    kind: Joi.valid('percent-of-span').required(),
    percent: finite.min(0).max(100).required(),
    low: finite.required(),
    high: finite.greater(Joi.ref('low')).required(),
  }),
  Joi.object({
    kind: Joi.valid('resolution').required(),
    step: finite.greater(0).required(),
    steps: finite.min(0).max(1000).required(),
  }),
)

export const reference = Joi.object({ value: finite.required(), origin: line.required().allow('') })
export const served = Joi.object({
  register: line.required(),
  type: dataType.required(),
  order: byteOrder.required(),
})

/** Units that no device has: above those of a serial line, below the one that means the device itself. */
const reservedUnits = Array.from(
  { length: limits.directTcpUnit - limits.lastSerialUnit - 1 },
  (_, k) => limits.lastSerialUnit + 1 + k,
)

/** Fields of a network that people edit. */
export const networkFields = {
  name: tag,
  cidr,
  gateway: address.allow(null),
  vlan: Joi.number().integer().min(1).max(4094).strict().allow(null),
  dhcp: ranges,
  reserved: ranges,
}
export const laterNetworkFields = { school: school.default('static') }
export const allNetworkFields = { ...networkFields, school }
export const deviceFields = {
  tag,
  what: line.allow(''),
  kind,
  behindId: id.allow(null),
  unitId: Joi.number()
    .integer()
    .strict()
    .min(0)
    .max(limits.directTcpUnit)
    .invalid(...reservedUnits)
    .allow(null)
    .messages({
      'any.invalid': 'Unit id {{#value}} is reserved. Use 1 to 247, or 255 for the device itself',
      'number.max': 'Unit id {{#value}} is above 255. Use 1 to 247, or 255 for the device itself',
    }),
  asFound: line.allow(''),
  note: line.allow('').max(400),
}
const secondsOrNone = Joi.number().integer().min(0).max(86_400).strict().allow(null)
const text = line.allow('')
/** Came later: a file or request without one of them means what `blankDevice` says. */
const deviceFieldsLater = {
  place: text,
  isolation: text,
  orderCode: text,
  orderCodeFound: text,
  serialNumber: text,
  firmwareFound: text.max(40),
  firmwareNeeded: text.max(40),
  firmwareRelation: Joi.valid('equal', 'at-least', 'not-above', 'any'),
  firmwareOfId: id.allow(null),
  hostName: text.max(253),
  namePlaces: Joi.array()
    .items(Joi.object({ where: line.min(1).required(), text: text.max(253).required() }))
    .max(20),
  setting: Joi.valid(...keys(waysOfSetting)).allow(null),
  effective: Joi.valid(...keys(restartRules)).allow(null),
  startUpSeconds: secondsOrNone,
  handsOnSeconds: secondsOrNone,
}
export const allDeviceFields = { ...deviceFields, ...deviceFieldsLater }
export const laterDeviceFields = Object.fromEntries(
  keys(deviceFieldsLater).map((name) => [name, deviceFieldsLater[name].default(() => blankDevice[name])]),
)
export const lineFields = {
  name: tag,
  medium: Joi.valid(...keys(lineMedia)),
  family: Joi.valid(...nodeFamilies.map((family) => family.id)),
  settings: text.max(60),
}
export const nodeFields = {
  lineId: id,
  name: text.max(40),
  node: Joi.number().integer().min(0).max(255).strict().allow(null),
  isMaster: Joi.boolean().strict(),
}
export const portFields = {
  name: line.min(1),
  networkId: id.allow(null),
  address: address.allow(null),
  prefix: Joi.number().integer().min(0).max(32).strict().allow(null),
  gateway: address.allow(null),
  tcpPort: Joi.number().integer().min(1).max(65_535).strict(),
}
/** Came later: a file or request without it means that it is not known. */
export const laterPortFields = { mac: mac.allow(null).default(null), school: school.allow(null).default(null) }
export const allPortFields = { ...portFields, mac: mac.allow(null), school: school.allow(null) }
export const pointFields = {
  tag,
  quantity: line.min(1),
  unit: line.allow('').max(20),
  decimals: Joi.number().integer().min(0).max(9).strict(),
  served: served.allow(null),
  shownAt: line.allow(''),
  reference: reference.allow(null),
  tolerance,
}
export const termFields = {
  text: Joi.string().trim().max(60).allow(''),
  notation: notation.allow(null),
  origin: line.allow(''),
}

type Fields<T, K extends keyof T> = { readonly [P in K]: T[P] }
export type NetworkFields = Fields<Network, 'name' | 'cidr' | 'gateway' | 'vlan' | 'dhcp' | 'reserved'> &
  Partial<Fields<Network, 'school'>>
export type DeviceFields = Fields<Device, 'tag' | 'what' | 'kind' | 'behindId' | 'unitId' | 'asFound' | 'note'> &
  Partial<Omit<typeof blankDevice, 'what' | 'behindId' | 'unitId' | 'asFound' | 'note'>>
export type LineFields = Fields<Line, 'name' | 'medium' | 'family' | 'settings'>
export type NodeFields = Fields<DeviceNode, 'lineId' | 'name' | 'node' | 'isMaster'>
export type PortFields = Fields<Port, 'name' | 'networkId' | 'address' | 'prefix' | 'gateway' | 'tcpPort'> &
  Partial<Fields<Port, 'mac' | 'school'>>
export type PointFields = Fields<
  Point,
  'tag' | 'quantity' | 'unit' | 'decimals' | 'served' | 'shownAt' | 'reference' | 'tolerance'
>
export type TermFields = Fields<Term, 'text' | 'notation' | 'origin'>
export type HandshakeFields = Fields<Handshake, 'name' | 'controllerId' | 'deviceId'>
export type ForcedFields = Fields<ForcedValue, 'where' | 'value'>

/** A change of a row: only fields that change, and the version that was looked at. */
export type Patch<F> = Partial<F> & { readonly version: number }

export const patchOf = (fields: Joi.SchemaMap) => Joi.object({ ...fields, version: version.required() }).min(2)
export const required = (fields: Readonly<Record<string, Joi.Schema>>): Joi.SchemaMap =>
  Object.fromEntries(Object.entries(fields).map(([name, schema]) => [name, schema.required()]))
