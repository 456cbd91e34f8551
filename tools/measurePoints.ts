import { randomUUID } from 'node:crypto'
import type { Job } from '@calm/core/job'
import { both, measuring } from './measuredApp'
import type { Line } from './measured'

const POINTS = 6_000
const EDITS = 25
const TURNS = 120

interface Named {
  readonly id: string
  readonly name: string
}

/**
 * When Enter was pressed, and when the frame with the new text was drawn, by the clock of the page. As text: what runs in
 * the page must not be rewritten on its way there.
 */
const watchEdits = `
  var watched = {}
  addEventListener('keydown', ({ key }) => { if (key === 'Enter') watched.enter = Date.now() }, true)
  new MutationObserver(() => {
    const now = watched
    if (now.enter === undefined || now.found || !document.querySelector(now.cell)?.textContent.includes(now.text)) return
    now.found = true
    requestAnimationFrame(() => setTimeout(() => { now.shown = Date.now() }))
  }).observe(document.body, { childList: true, subtree: true, characterData: true })
`

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
    await page.evaluate(watchEdits)
    const shown: number[] = []
    const saved: number[] = []
    for (let k = 0; k < EDITS; k += 1) {
      const cell = `[data-quantity="Value ${k % 10}"] [data-col=unit]`
      await page.locator(`${cell} button`).click()
      await page.keyboard.press('Control+a')
      await page.keyboard.type(`u${k}`)
      const answered = page.waitForResponse((response) => response.url().endsWith('/changes'))
      await page.evaluate(`watched = { cell: ${JSON.stringify(`${cell} button`)}, text: 'u${k}' }`)
      await page.keyboard.press('Enter')
      const response = await answered
      // The page's own policy lets no text be waited for in it.
      while (!(Number(await page.evaluate('watched.shown')) > 0)) await page.waitForTimeout(10)
      const enter = Number(await page.evaluate('watched.enter'))
      shown.push(Number(await page.evaluate('watched.shown')) - enter)
      const { startTime, responseEnd } = response.request().timing()
      saved.push(startTime + responseEnd - enter)
    }
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
