import { makeReady } from './app'
import { buildHost } from './hosting'

/** Before all tests: the process that servers run in, and the data folder that most begin from. */
export default async function beforeAll(): Promise<void> {
  await buildHost()
  await makeReady()
}
