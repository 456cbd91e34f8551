import { createHash } from 'node:crypto'
import type { LogRow } from '../db'

/** The hash that the first entry of a chain builds on. */
export const CHAIN_START = '0'.repeat(64)

export type LogContent = Omit<LogRow, 'sequence' | 'hash'>

/** SHA-256 over the hash before and every field, each with its length, so that no two entries share a text. */
export function hashOf(entry: LogContent): string {
  const fields = [entry.previousHash, entry.jobId, String(entry.at), entry.who, entry.what, entry.detail]
  return createHash('sha256')
    .update(fields.map((field) => `${field.length}:${field}`).join('|'))
    .digest('hex')
}

/** Where a chain is broken: the first entry that does not fit, or `undefined` when all fit. */
export function firstBroken(entries: readonly LogRow[]): LogRow | undefined {
  let previous = CHAIN_START
  return entries.find((entry) => {
    const fits = entry.previousHash === previous && hashOf(entry) === entry.hash
    previous = entry.hash
    return !fits
  })
}
