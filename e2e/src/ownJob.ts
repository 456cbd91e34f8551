import { expect, test, type Page } from './test'
import type { DemoJobs } from '../../packages/server/src/demo'
import { startApp, talk, type RunningApp } from './app'

interface Named {
  readonly id: string
  readonly name: string
}

/**
 * One server for the tests of a file, and for each test a job of its own, taken in from one of the demo's: starting a
 * server takes longer than most tests. For tests that change nothing but their job; who changes stand-ins starts a
 * server of its own.
 */
export function ownJobs(jobs: DemoJobs = 'small') {
  let app: RunningApp
  /** The demo's own, which nobody changes. */
  let demo: readonly Named[]
  const { get } = talk(() => app)
  test.beforeAll(async () => {
    app = await startApp({ jobs })
    demo = await get<readonly Named[]>('/jobs')
  })
  test.afterAll(() => app.end())

  /** A copy of the demo's job whose name begins so. */
  const copyOf = async (name: string): Promise<Named> => {
    const from = demo.find((job) => job.name.startsWith(name))
    const file = await (await fetch(`${app.url}/api/jobs/${from?.id}/export`)).text()
    const answer = await fetch(`${app.url}/api/jobs/import`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: file,
    })
    if (!answer.ok) throw new Error(`${name} was not taken in: ${await answer.text()}`)
    const copy = (await answer.json()) as Named
    // What the sample job proves comes with its file, and counts when it is taken over.
    const taken = await fetch(`${app.url}/api/jobs/${copy.id}/from-file/take-over`, { method: 'POST' })
    if (!taken.ok && taken.status !== 422) throw new Error(`${name} was not taken over: ${await taken.text()}`)
    return copy
  }

  return {
    app: () => app,
    /** Opens a stage of a copy of the demo's job whose name begins so. @returns the id of the copy */
    open: async (page: Page, name: string, stage = 'line-up'): Promise<string> => {
      const { id } = await copyOf(name)
      await page.goto(`${app.url}/jobs/${id}/${stage}`)
      if (stage === 'line-up') await expect(page.getByRole('heading', { name: 'Line-up' })).toBeVisible()
      return id
    },
  }
}
