import { latestFact, type WalkRecord } from './record'

/** The setting under which it is kept whether a device's network lead is in. */
export const LEAD_SETTING = 'network-lead'

/** How the ledger calls a lead that is out. */
export const leadOut = (tag: string): string => `Network lead of ${tag} pulled`

/** Whether the network lead of a device was last pulled. */
export const isLeadOut = (record: WalkRecord, deviceId: string): boolean =>
  latestFact(record, deviceId, LEAD_SETTING)?.text === 'pulled'
