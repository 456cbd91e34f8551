import { jobs } from '../db'
import { writeNewJob, type Store } from '../store'
import { heronMill } from './heronMill'
import { largeJob } from './largeJob'
import { weirLane } from './weirLane'

/** Puts the sample jobs into an empty database; leaves one that has jobs alone. */
export async function seedDemo(store: Store): Promise<void> {
  if (await store.source.manager.exists(jobs)) return
  await store.write('demo', async (tx) => {
    await writeNewJob(tx, heronMill(tx.now), 'Sample job begun')
    await writeNewJob(tx, weirLane(), 'Sample job begun')
    await writeNewJob(tx, largeJob(), 'Sample job begun')
  })
}

export { heronMill, largeJob, weirLane }
