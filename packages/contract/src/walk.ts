import type { OrderSettings, SettingFact, WaitRecord, WalkRecord } from '@calm/core/procedure'
import { standings } from '@calm/core/procedure'
import { limits } from '@calm/core/modbus'
import type { BringUpAction } from '@calm/core/sequence'
import Joi from 'joi'
import { address, finite, id, instant, line, tag, version } from './fields'
import { kindId } from './kindRow'
import { runFactsSchema } from './runRow'

const stepKey = Joi.string().min(3).max(300)
const note = Joi.string().trim().max(2_000).allow('')

/** What is said of one step. `seen` is the version of its record as the page knew it, 0 for none. */
export interface StepSettling {
  readonly stepKey: string
  readonly state: 'done' | 'overridden' | 'parked' | 'unexpected'
  readonly note: string
  readonly seen: number
}
export const stepSettling = Joi.object<StepSettling>({
  stepKey: stepKey.required(),
  state: Joi.valid('done', 'overridden', 'parked', 'unexpected').required(),
  note: note.required(),
  seen: Joi.number().integer().min(0).strict().required(),
})

/** A stretch that is ticked at once: already done, all as drawn, or parked. */
export interface StretchSettling {
  readonly stepKeys: readonly string[]
  readonly state: 'done' | 'parked'
  readonly note: string
}
export const stretchSettling = Joi.object<StretchSettling>({
  stepKeys: Joi.array().items(stepKey).min(1).max(500).required(),
  state: Joi.valid('done', 'parked').required(),
  note: note.required(),
})

export const stepNamed = Joi.object<{ readonly stepKey: string }>({ stepKey: stepKey.required() })

const bits = Joi.number().integer().min(0).max(0xffffffff).strict().required()
const hostAddress = Joi.object({ address: bits, prefix: Joi.number().integer().min(0).max(32).strict().required() })
const groupId = Joi.string().max(200).required()
const action = Joi.alternatives(
  Joi.object({
    kind: Joi.valid('laptop').required(),
    into: hostAddress.required(),
    leaves: hostAddress.allow(null).required(),
  }),
  Joi.object({ kind: Joi.valid('group-on', 'group-off').required(), groupId }),
  Joi.object({ kind: Joi.valid('cable').required(), into: Joi.string().max(80).required() }),
  Joi.object({
    kind: Joi.valid('set').required(),
    deviceId: id.required(),
    to: hostAddress.required(),
    parking: Joi.boolean().strict().required(),
    pending: Joi.boolean().strict().required(),
  }),
  Joi.object({ kind: Joi.valid('verify').required(), deviceId: id.required() }),
)

const seconds = Joi.number().integer().min(0).max(86_400).strict()
const flag = Joi.boolean().strict()
const orderSettings = Joi.object<OrderSettings>({
  holds: Joi.valid(1, 2).required(),
  people: Joi.valid(1, 2).required(),
  preference: Joi.valid('seconds', 'fewest-changes').required(),
  laptopChange: seconds.required(),
  cableMove: seconds.required(),
  groups: Joi.object()
    .pattern(Joi.string().max(200), Joi.object({ seconds, live: flag, mustStayLive: flag, chained: flag }))
    .required(),
  leftOut: Joi.array().items(id).max(5_000).unique().required(),
  runs: Joi.object().pattern(id, kindId).required(),
})

export const orderPut = Joi.object<{ readonly version: number; readonly order: readonly BringUpAction[] }>({
  version: version.required(),
  order: Joi.array().items(action).max(5_000).required(),
})
export const settingsPut = Joi.object<{ readonly version: number; readonly settings: OrderSettings }>({
  version: version.required(),
  settings: orderSettings.required(),
})

export type NewFact = Pick<SettingFact, 'deviceId' | 'setting' | 'standing' | 'text' | 'how'>
export const newFact = Joi.object<NewFact>({
  deviceId: id.required(),
  setting: line.min(1).max(60).required(),
  standing: Joi.valid(...Object.keys(standings)).required(),
  text: note.min(1).required(),
  how: Joi.valid('typed', 'seen', 'measured').required(),
})

export interface NewTemporary {
  readonly what: string
  readonly putBack: string
}
export const newTemporary = Joi.object<NewTemporary>({
  what: line.min(2).max(200).required(),
  putBack: line.max(200).allow('').required(),
})

export const newRun = Joi.object<{ readonly facts: WalkRecord['runs'][number]['facts'] }>({
  facts: runFactsSchema.required(),
})

export const probeAsk = Joi.object<{
  readonly address: string
  readonly port: number
  readonly deviceId: string | null
}>({
  address: address.required(),
  port: Joi.number().integer().min(1).max(65_535).strict().required(),
  deviceId: id.allow(null).required(),
})
export const sweepAsk = Joi.object<{ readonly cidr: string }>({ cidr: line.required() })
const serialUnit = Joi.number().integer().min(limits.firstUnit).max(limits.lastSerialUnit).strict()
export const unitsAsk = Joi.object<{ readonly deviceId: string; readonly first: number; readonly last: number }>({
  deviceId: id.required(),
  first: serialUnit.required(),
  last: serialUnit.required(),
})
export const pictureAsk = Joi.object<{ readonly when: 'before' | 'after'; readonly notes: readonly string[] }>({
  when: Joi.valid('before', 'after').required(),
  notes: Joi.array().items(line.max(400)).max(100).required(),
})

export const frontAct = Joi.alternatives(
  Joi.object({ act: Joi.valid('power', 'plug').required(), on: flag.required() }),
  Joi.object({ act: Joi.valid('press').required(), id: line.required(), seconds: finite.min(0).max(600).required() }),
  Joi.object({ act: Joi.valid('turn').required(), id: line.required(), value: line.required() }),
)
export const benchLaptop = Joi.object({
  addresses: Joi.array()
    .items(
      Joi.object({ address: address.required(), prefix: Joi.number().integer().min(1).max(30).strict().required() }),
    )
    .max(2)
    .required(),
  cable: tag.required(),
  speed: Joi.valid(1, 5, 20, 100).required(),
})

const instantOrNone = instant.allow(null).required()
const watched = Joi.string().max(60).allow('').required()
const waitRecord = Joi.object<WaitRecord>({
  startedAt: instant.required(),
  seconds: finite.min(0).max(86_400).required(),
  watch: Joi.valid('back-at-present', 'back-at-planned', 'gone', null).required(),
  oldAddress: watched,
  newAddress: watched,
  port: Joi.number().integer().min(0).max(65_535).strict().required(),
  seenGoneAt: instantOrNone,
  backAt: instantOrNone,
  triesAfter: Joi.number().integer().min(0).max(10_000).strict().required(),
  rangAt: instantOrNone,
})

/** A walk as it stands in a job file. */
const row = (fields: Readonly<Record<string, Joi.Schema>>) => Joi.object({ id: id.required(), ...fields })
const who = line.max(60).required()
export const walkInFile = Joi.object({
  version: version.required(),
  settings: orderSettings.required(),
  order: Joi.array().items(action).max(5_000).required(),
  steps: Joi.array()
    .items(
      row({
        stepKey: stepKey.required(),
        state: Joi.valid('done', 'overridden', 'parked', 'waiting', 'unexpected').required(),
        note: note.required(),
        who,
        at: instant.required(),
        wait: waitRecord.allow(null).required(),
        version: version.required(),
      }),
    )
    .max(50_000)
    .required(),
  facts: Joi.array()
    .items(
      row({
        deviceId: id.required(),
        setting: line.max(60).required(),
        standing: Joi.valid(...Object.keys(standings)).required(),
        text: note.required(),
        how: Joi.valid('read-live', 'typed', 'seen', 'measured').required(),
        who,
        at: instant.required(),
      }),
    )
    .max(50_000)
    .required(),
  temporary: Joi.array()
    .items(
      row({
        what: line.max(200).required(),
        putBack: line.max(200).allow('').required(),
        who,
        at: instant.required(),
        backBy: line.allow(null).required(),
        backAt: instant.allow(null).required(),
        version: version.required(),
      }),
    )
    .max(5_000)
    .required(),
  runs: Joi.array()
    .items(row({ facts: runFactsSchema.required(), version: version.required() }))
    .max(200)
    .required(),
})
