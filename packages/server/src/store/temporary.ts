import { randomUUID } from 'node:crypto'
import type { NewTemporary } from '@calm/contract/walk'
import { LEAD_SETTING, leadOut } from '@calm/core/procedure'
import { temporaries } from '../db'
import { addFact } from './settingFacts'
import { notFound, Refused } from './refusals'
import type { Tx } from './store'

/** Something that is left or changed for the work, to be put back. */
export async function addTemporary(tx: Tx, jobId: string, { what, putBack }: NewTemporary): Promise<string> {
  const id = randomUUID()
  await tx.manager.insert(temporaries, {
    id,
    jobId,
    what,
    putBack,
    who: tx.who,
    at: tx.now,
    backBy: null,
    backAt: null,
    version: 1,
  })
  await tx.log(jobId, `Temporary: ${what}`, { putBack })
  return id
}

/** Something temporary was seen to be back. */
export async function putBack(tx: Tx, id: string, version: number): Promise<void> {
  const row = await tx.manager.findOne(temporaries, { where: { id } })
  if (!row) throw notFound('temporary thing', id)
  if (row.version !== version || row.backAt !== null)
    throw new Refused(
      409,
      [
        {
          what: row.backBy ? `${row.backBy} saw it back already.` : 'It was changed meanwhile.',
          where: 'version',
          expected: String(row.version),
          found: String(version),
        },
      ],
      row,
    )
  await tx.manager.update(temporaries, { id }, { backBy: tx.who, backAt: tx.now, version: version + 1 })
  await tx.log(row.jobId, `Back: ${row.what}`)
  const { devices } = await tx.job(row.jobId)
  const plugged = devices.find((device) => leadOut(device.tag) === row.what)
  if (plugged)
    await addFact(tx, row.jobId, {
      deviceId: plugged.id,
      setting: LEAD_SETTING,
      standing: 'in-force',
      text: 'plugged',
      how: 'seen',
    })
}
