import { randomUUID } from 'node:crypto'
import type { Job } from '@calm/core/job'
import { both, measuring } from './measuredApp'
import type { Line } from './measured'
import { editCells } from './watchedEdit'

const POINTS = 6_000
const EDITS = 25
const TURNS = 120

interface Named {
  readonly id: string
  readonly name: string
}

/** A table of 6 000 points of one device, edited and scrolled in the browser. */
export const pointTable = (): Promise<readonly Line[]> =>
  measuring(async ({ url, page, answer }) => {
    const jobs = (await answer('/jobs')) as readonly Named[]
    const hatchery = jobs.find(({ name }) => name.startsWith('Heron Mill'))
    const file = (await answer(`/jobs/${hatchery?.id ?? ''}/export`)) as {
      job: { handshakes: { name: string; points: object[] }[] }
    }
    const handshake = file.job.handshakes.find(({ name }) => name.includes('EM-501'))
    const [first] = handshake?.points ?? []
    if (handshake) {
      handshake.points = Array.from({ length: POINTS }, (_, k) => ({
        ...first,
        id: randomUUID(),
        tag: `P_${k}`,
        quantity: `Value ${k}`,
        position: k,
        source: { register: `3${String(2 * k + 1).padStart(5, '0')}`, type: 'float32', order: 'ABCD', scale: 1 },
      }))
    }
    const job = (await answer('/jobs/import', {
      method: 'POST',
      headers: { 'content-type': 'text/plain' },
      body: JSON.stringify(file),
    })) as Job
    const id = job.handshakes.find(({ name }) => name.includes('EM-501'))?.id ?? ''
    await page.goto(`${url}/jobs/${job.id}/data-path?handshake=${id}`)
    await page.locator('[data-quantity="Value 0"]').waitFor()
    const cells = Array.from({ length: 10 }, (_, k) => `[data-quantity="Value ${k}"] [data-col=unit]`)
    const { shown, saved } = await editCells(page, cells, EDITS)
    await page.mouse.move(700, 500)
    await page.evaluate(
      'window.looked = []; const tick = (now) => { looked.push(now); requestAnimationFrame(tick) }; requestAnimationFrame(tick)',
    )
    for (let k = 0; k < TURNS; k += 1) {
      await page.mouse.wheel(0, 400)
      await page.waitForTimeout(16)
    }
    const times = (await page.evaluate('window.looked')) as readonly number[]
    const frames = times.slice(1).map((time, k) => time - (times[k] ?? time))
    return [
      {
        work: `an edit in a table of ${POINTS} points: Enter to shown, p50 / p95`,
        measured: both(shown),
        target: 'p95 under 100 ms',
      },
      { work: 'the same, Enter to saved', measured: both(saved), target: 'p95 under 100 ms' },
      { work: 'scrolling it: from frame to frame, p50 / p95', measured: both(frames), target: 'p95 under 100 ms' },
    ]
  })
