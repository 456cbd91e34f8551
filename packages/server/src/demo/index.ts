import { randomUUID } from 'node:crypto'
import { blankWalk, portOf, type OrderSettings } from '@calm/core/procedure'
import { facts, rowEntities, walks } from '../db'
import { SAMPLE, writeNewJob, type Store, type Tx } from '../store'
import { heronMill } from './heronMill'
import { largeJob } from './largeJob'
import { rehearsal } from './rehearsal'
import { secondPanel } from './secondPanel'
import { weirLane } from './weirLane'

/** Which sample jobs there are: `small` leaves out the one of 400 devices, whose making and reading takes a second each. */
export type DemoJobs = 'all' | 'small'

/** Puts the sample jobs into an empty database; leaves one that has jobs alone. */
export async function seedDemo(store: Store, which: DemoJobs): Promise<void> {
  if (await store.source.manager.exists(rowEntities.job)) return
  await store.write('demo', async (tx) => {
    const mill = await writeNewJob(tx, heronMill(tx.now), SAMPLE)
    // What has its place from before need not be found again.
    await seedWalk(tx, mill, ['PLC-101', 'PD-101', 'GW-201', 'EM-501'], {})
    await writeNewJob(tx, weirLane(), SAMPLE)
    if (which === 'all') await writeNewJob(tx, largeJob(), SAMPLE)
    await writeNewJob(tx, secondPanel(), SAMPLE)
    const panel = await writeNewJob(tx, rehearsal(), SAMPLE)
    await seedWalk(tx, panel, ['PLC-101'], { groups: { Q3: { live: false } } })
  })
}

/** What first contact has of a job already. */
async function seedWalk(
  tx: Tx,
  jobId: string,
  verified: readonly string[],
  settings: Partial<OrderSettings>,
): Promise<void> {
  const job = await tx.job(jobId)
  for (const device of job.devices) {
    const address = portOf(device)?.address
    if (!verified.includes(device.tag) || !address) continue
    const stamp = { jobId, deviceId: device.id, who: 'R. Osei', at: tx.now - 3_600_000, how: 'read-live' }
    for (const standing of ['in-force', 'verified'])
      await tx.manager.insert(facts, { id: randomUUID(), ...stamp, setting: 'address', standing, text: address })
    await tx.manager.insert(facts, { id: randomUUID(), ...stamp, setting: 'power', standing: 'in-force', text: 'on' })
  }
  await tx.manager.insert(walks, {
    jobId,
    settings: JSON.stringify({ ...blankWalk.settings, ...settings }),
    order: '[]',
    version: 1,
  })
}

export { heronMill, largeJob, rehearsal, weirLane }
