import { plainText } from '@calm/core/units'
import type { EntityManager } from 'typeorm'
import { logEntries, type LogRow } from '../db'
import { firstBroken } from './chain'

/** The log of a job, and whether its chain holds. */
export interface JobLog {
  readonly entries: readonly LogRow[]
  readonly whole: boolean
  /** The first entry whose seal does not fit. */
  readonly brokenAt: number | null
  /** What is known of entries that read otherwise than they were sealed, one sentence each. */
  readonly notes: readonly string[]
}

/**
 * Reads a log and checks its chain. Older programs let control characters in: a NUL cuts a text where it is read, so
 * that its seal seems not to fit. Such entries are read byte by byte and told by name.
 */
export async function readLog(manager: EntityManager, jobId: string): Promise<JobLog> {
  const entries = await manager.find(logEntries, { where: { jobId }, order: { sequence: 'ASC' } })
  const asRead = firstBroken(entries)
  if (!asRead) return { entries, whole: true, brokenAt: null, notes: [] }
  const full = await fullTexts(manager, jobId)
  const restored = entries.map((entry) => ({ ...entry, ...full.get(entry.sequence) }))
  const broken = firstBroken(restored)
  const notes = [...full.keys()].map(
    (sequence) =>
      `Entry ${sequence} holds a control character (U+0000) that an older program let in. It reads shorter than it was sealed` +
      (broken?.sequence === sequence ? '; its seal does not fit even so.' : '; its seal fits.'),
  )
  if (broken && !full.has(broken.sequence)) notes.push(whyBroken(broken))
  const shown = restored.map((entry) => ({ ...entry, who: plainText(entry.who), what: plainText(entry.what) }))
  return { entries: shown, whole: broken === undefined, brokenAt: broken?.sequence ?? null, notes }
}

const whyBroken = (entry: LogRow): string =>
  `Entry ${entry.sequence} was changed outside this program, or one before it is missing.`

type Texts = Pick<LogRow, 'who' | 'what' | 'detail'>

/** Texts with a NUL, whole, by their entry: read as bytes, because as text they end there. */
async function fullTexts(manager: EntityManager, jobId: string): Promise<ReadonlyMap<number, Texts>> {
  const fields = ['who', 'what', 'detail'] as const
  const rows: ({ readonly sequence: number } & Texts)[] = await manager.query(
    `SELECT "sequence", ${fields.map((field) => `hex("${field}") AS "${field}"`).join(', ')} FROM "log_entry"
     WHERE "jobId" = ? AND (${fields.map((field) => `instr(CAST("${field}" AS BLOB), x'00') > 0`).join(' OR ')})
     ORDER BY "sequence"`,
    [jobId],
  )
  const text = (hex: string) => Buffer.from(hex, 'hex').toString('utf8')
  return new Map(
    rows.map((row) => [row.sequence, { who: text(row.who), what: text(row.what), detail: text(row.detail) }]),
  )
}
