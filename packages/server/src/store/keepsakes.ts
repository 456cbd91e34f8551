import { randomUUID } from 'node:crypto'
import { keepsakes } from '../db'
import type { Tx } from './store'

/** Keeps a document as evidence: a console session, a picture of what runs, what a search found. */
export async function keep(
  tx: Tx,
  jobId: string,
  what: { readonly deviceId: string | null; readonly kind: string; readonly title: string; readonly content: unknown },
): Promise<string> {
  const id = randomUUID()
  await tx.manager.insert(keepsakes, {
    id,
    jobId,
    ...what,
    content: JSON.stringify(what.content),
    who: tx.who,
    at: tx.now,
  })
  await tx.log(jobId, `Kept: ${what.title}`, { id, kind: what.kind })
  return id
}
