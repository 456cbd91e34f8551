import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import type { Job, Point } from '@calm/core/job'
import { both, measuring } from './measuredApp'
import type { Line } from './measured'
import { editCells } from './watchedEdit'

const POINTS = 6_000
const EDITS = 40

interface JobFile {
  readonly job: { handshakes: { points: Partial<Point>[] }[] }
}

/** The large job of the demo with many points in its handshakes, as a file. */
function withPoints(file: JobFile): JobFile {
  const { handshakes } = file.job
  const each = Math.ceil(POINTS / handshakes.length)
  for (const handshake of handshakes) {
    const [first] = handshake.points
    if (!first) continue
    handshake.points = Array.from({ length: each }, (_, k) => ({
      ...first,
      id: randomUUID(),
      tag: `${String(first.tag)}_${k}`,
      position: k,
    }))
  }
  return file
}

interface LoopFound {
  readonly wall: number
  readonly own: number
  readonly ticks: number
}

/** One cell after the other edited in the browser, with 400 devices and 6 000 points behind it. */
export const editing = (): Promise<readonly Line[]> =>
  measuring(async ({ url, page, answer, probe, stop }, probed) => {
    const jobs = (await answer('/jobs')) as readonly { id: string; name: string }[]
    const large = jobs.find(({ name }) => name.startsWith('Three Rivers'))
    const file = withPoints((await answer(`/jobs/${large?.id ?? ''}/export`)) as JobFile)
    const job = (await answer('/jobs/import', {
      method: 'POST',
      headers: { 'content-type': 'text/plain' },
      body: JSON.stringify(file),
    })) as Job
    const points = job.handshakes.reduce((sum, { points: list }) => sum + list.length, 0)
    await page.goto(`${url}/jobs/${job.id}/line-up`)
    await page
      .getByRole('button', { name: /^What / })
      .first()
      .waitFor()
    const ids = await page.locator('tr[data-device]').evaluateAll((rows) => rows.map((row) => row.dataset['device']))
    const cells = ids.slice(0, 8).map((id) => `[data-device="${id}"] [data-col=what]`)
    probe()
    const { shown, saved } = await editCells(page, cells, EDITS)
    await stop()
    const loop = JSON.parse(readFileSync(probed, 'utf8')) as LoopFound
    return [
      {
        work: `an edit at ${job.devices.length} devices, ${points} points: Enter to shown, p50 / p95`,
        measured: both(shown),
        target: '-',
      },
      { work: 'the same, Enter to saved', measured: both(saved), target: '-' },
      {
        work: `longest stretch of the event loop meanwhile, its own computing (${loop.ticks} looks)`,
        measured: `${loop.own.toFixed(0)} ms`,
        target: 'under 50 ms',
      },
      {
        work: 'the same by the clock, with what the machine took',
        measured: `${loop.wall.toFixed(0)} ms`,
        target: '-',
      },
    ]
  })
