import { readFileSync } from 'node:fs'
import { expect, test } from './test'
import { choose, stage, startApp, type RunningApp } from './app'

let app: RunningApp
test.beforeEach(async ({ page }) => {
  app = await startApp()
  await page.goto(app.url)
})
test.afterEach(() => app.end())

test('an empty job: begun without a name it says so; with one it opens, and each stage says what to do first', async ({
  page,
}) => {
  await page.getByRole('button', { name: 'Begin' }).click()
  await expect(page.getByRole('alert')).toHaveText('Name is blank.Expected: a text.')
  await page.getByLabel('Name').fill('Test stand')
  await page.getByLabel('Place').fill('Hall 2')
  await page.getByRole('button', { name: 'Begin' }).click()
  await expect(page.getByRole('heading', { name: 'Search from where this laptop is plugged in' })).toBeVisible()
  await expect(page.getByText('There is no network yet.')).toBeVisible()
  await page.keyboard.press('3')
  await expect(page.getByText('There is no handshake yet.')).toBeVisible()
  await page.keyboard.press('6')
  await expect(page.getByText('There is no handshake yet.')).toBeVisible()
})

test('a job goes out as a file and comes in again as another job', async ({ page }) => {
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await stage(page, 'Hand-over').click()
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Whole job as a file' }).click(),
  ])
  expect(download.suggestedFilename()).toBe('heron-mill-hatchery.job.json')
  const file = await download.path()
  expect(JSON.parse(readFileSync(file, 'utf8'))).toMatchObject({ format: 'calm-handshake-job', version: 10 })
  await page.getByRole('link', { name: 'Calm Handshake' }).click()
  await page
    .getByLabel('Job file')
    .setInputFiles({ name: 'job.json', mimeType: 'application/json', buffer: readFileSync(file) })
  await expect(page.getByRole('heading', { name: 'Line-up' })).toBeVisible()
  await expect(page.locator('tr[data-device]')).toHaveCount(16)
  await page.goto(app.url)
  await expect(page.getByRole('link', { name: /Heron Mill hatchery/ })).toHaveCount(2)
})

test('what comes with a file proves nothing; the lead takes it over where the chain of the file is whole', async ({
  page,
}) => {
  const api = page.request
  const jobs = (await (await api.get(`${app.url}/api/jobs`)).json()) as { id: string; name: string }[]
  const demo = jobs.find(({ name }) => name === 'Heron Mill hatchery')?.id ?? ''
  const file = await (await api.get(`${app.url}/api/jobs/${demo}/export`)).json()
  const takeIn = async (content: object) => {
    await page.goto(app.url)
    const body = Buffer.from(JSON.stringify(content))
    await page.getByLabel('Job file').setInputFiles({ name: 'a.job.json', mimeType: 'application/json', buffer: body })
    await expect(page).toHaveURL(/line-up/)
    await stage(page, 'Hand-over').click()
    return /jobs\/([^/]+)/.exec(page.url())?.[1] ?? ''
  }
  // Without its log nothing tells where it was seen.
  const { log: _log, ...without } = file
  await takeIn(without)
  const note = page.getByRole('region', { name: 'From the file' })
  await expect(note).toContainText('they prove nothing here')
  await expect(note).toContainText('prove it again here')
  await expect(note.getByRole('button')).toHaveCount(0)
  // What is seen here is told in the log of the job, and goes with its file.
  const handshakes = file.job.handshakes.map((each: object) => ({ ...each, decisions: [] }))
  const bare = { ...file, job: { ...file.job, evidence: [], acceptances: [], handshakes } }
  const here = await takeIn(bare)
  await expect(page.getByRole('heading', { name: 'Hand-over' })).toBeVisible()
  await expect(note).toHaveCount(0)
  const job = await (await api.get(`${app.url}/api/jobs/${here}`)).json()
  const seen = { rung: 'safe', verdict: 'proven', how: 'seen', value: 'tagged at Q14' }
  await api.post(`${app.url}/api/handshakes/${job.handshakes[0].id}/evidence`, { data: seen })
  await takeIn(await (await api.get(`${app.url}/api/jobs/${here}/export`)).json())
  const safe = page.getByRole('row', { name: /^Safe/ })
  await expect(note).toContainText('1 piece of evidence from a file')
  await expect(safe).toContainText('0/8')
  await note.getByRole('button', { name: 'Take it over' }).click()
  await expect(page.getByText(/took it over on/)).toBeVisible()
  await expect(safe).toContainText('1/8')
})

test('the record as JSON and CSV', async ({ page }) => {
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await stage(page, 'Hand-over').click()
  const take = async (name: string) => {
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name }).click()])
    return { name: download.suggestedFilename(), text: readFileSync(await download.path(), 'utf8') }
  }
  const json = await take('Record as JSON')
  expect(json.name).toBe('heron-mill-hatchery-as-left.json')
  expect(JSON.parse(json.text)).toMatchObject({
    readyToHandOver: false,
    devices: expect.arrayContaining([expect.objectContaining({ tag: 'EM-501' })]),
  })
  const csv = await take('Evidence as CSV')
  const record = JSON.parse(json.text) as { open: string[]; known: string[]; handshakes: { points: unknown[] }[] }
  const parts = csv.text.split('\r\n').map((line) => line.split(',')[0])
  const count = (part: string) => parts.filter((each) => each === part).length
  expect([count('open point'), count('known'), count('network'), count('ledger'), count('handshake')]).toEqual([
    record.open.length,
    record.known.length,
    2,
    2,
    8 * 9,
  ])
  expect(count('point')).toBe(record.handshakes.flatMap(({ points }) => points).length)
})

test('hand-over cannot be signed while a value is forced; released, it can', async ({ page }) => {
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await stage(page, 'Proof').click()
  const rung = page.locator('[data-rung=handed-over]')
  const sign = async () => {
    await rung.getByRole('button', { name: 'I see it' }).click()
  }
  await rung.getByRole('button', { name: 'I saw' }).click()
  await rung.getByLabel(/What was seen/).fill('Signed by the owner')
  await sign()
  await expect(rung.getByText(/2 values are forced\. Release first\./)).toBeVisible()
  await expect(rung.getByLabel(/What was seen/)).toHaveValue('Signed by the owner')
  await page.getByRole('button', { name: 'Seen released' }).first().click()
  await expect(page.getByText('1 value forced')).toBeVisible()
  await page.getByRole('button', { name: 'Seen released' }).first().click()
  await expect(page.getByText('0 values forced')).toBeVisible()
  await sign()
  await expect(rung.getByText(/Not proven yet: .*Survives \(not started\)/)).toBeVisible()
  await expect(rung.getByLabel(/What was seen/)).toHaveValue('Signed by the owner')
  // What is not proven is parked with a reason; then it may be signed, and the record says so.
  for (const open of await page.locator('[data-rung]:not([data-rung=handed-over])').all()) {
    if (['proven', 'not-apply'].includes((await open.getAttribute('data-state')) ?? '')) continue
    await open.getByRole('button', { name: /^Park/ }).click()
    await open.getByLabel('Reason').fill('The plant runs until Friday')
    await open.getByRole('button', { name: 'Decide' }).click()
    await expect(open).toHaveAttribute('data-state', 'parked')
  }
  await sign()
  await expect(rung).toHaveAttribute('data-state', 'proven')
})

test('a rung is parked with a reason, and the decision taken back', async ({ page }) => {
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await stage(page, 'Proof').click()
  const rung = page.locator('[data-rung=survives]')
  await rung.getByRole('button', { name: /^Park/ }).click()
  await rung.getByRole('button', { name: 'Decide' }).click()
  await expect(rung.getByRole('alert')).toBeVisible()
  await rung.getByLabel('Reason').fill('The plant runs until Friday')
  await rung.getByRole('button', { name: 'Decide' }).click()
  await expect(rung).toHaveAttribute('data-state', 'parked')
  await expect(rung).toContainText('The plant runs until Friday')
  await rung.getByRole('button', { name: /^Park/ }).click()
  await choose(rung.getByLabel('Decision'), 'take the decision back')
  await rung.getByRole('button', { name: 'Decide' }).click()
  await expect(rung).toHaveAttribute('data-state', 'not-started')
})

test('powering has its caution at the step; it cannot be closed', async ({ page }) => {
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await stage(page, 'Proof').click()
  const rung = page.locator('[data-rung=writing]')
  await rung.getByRole('button', { name: 'I saw' }).click()
  await expect(rung.getByRole('note')).toContainText('A written output can start a motor')
  await expect(rung.getByRole('note').getByRole('button')).toHaveCount(0)
})

test('plant and bench: asked before it changes, plain to see, and nothing is read before somebody says so', async ({
  page,
}) => {
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await page.getByRole('button', { name: /BENCH/ }).click()
  await expect(page.getByRole('note')).toContainText('asked on the real network')
  await page.getByRole('button', { name: 'Leave it' }).click()
  await expect(page.locator('html')).toHaveAttribute('data-mode', 'bench')
  // The job for this check points at loopback, where nobody listens: nothing leaves this machine.
  await page.getByRole('button', { name: /Planned address of EM-501/ }).click()
  await page.getByRole('textbox', { name: 'Planned address of EM-501' }).fill('127.9.9.9')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: /Planned address of PLC-101/ }).click()
  await page.getByRole('textbox', { name: 'Planned address of PLC-101' }).fill('127.9.9.8')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: /Planned address of PLC-101: 127\.9\.9\.8/ })).toBeVisible()
  await page.getByRole('button', { name: /BENCH/ }).click()
  await page.getByRole('button', { name: 'Change to the plant' }).click()
  await expect(page.locator('html')).toHaveAttribute('data-mode', 'plant')
  await expect(page.getByText('Writes move machinery')).toBeVisible()
  await expect(stage(page, 'Bench')).toHaveCount(0)
  await stage(page, 'Proof').click()
  await expect(page.locator('[data-hop]').first()).toContainText('Not read yet.')
  await page.getByRole('button', { name: 'Begin reading live' }).click()
  await expect(page.locator('[data-hop]').first()).toContainText('nothing listens on this port')
})

test('on the plant the walk asks devices only after somebody said so', async ({ page }) => {
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await page.getByRole('button', { name: /BENCH/ }).click()
  await page.getByRole('button', { name: 'Change to the plant' }).click()
  await expect(page.locator('html')).toHaveAttribute('data-mode', 'plant')
  const asked: string[] = []
  // Held at the page's own door: nothing is to leave this machine.
  await page.route('**/sweep', async (route) => {
    if (route.request().method() !== 'POST') return route.continue()
    asked.push(route.request().url())
    await route.fulfill({ status: 409, json: { error: 'Held back by the check.' } })
  })
  await page.goto(`${page.url().split('/line-up')[0] ?? ''}/first-contact?view=find`)
  const sweep = page.getByRole('button', { name: 'Search', exact: true })
  await sweep.click()
  const dialog = page.getByRole('dialog', { name: 'Ask devices of this plant?' })
  await expect(dialog).toContainText('Nothing is written.')
  await dialog.getByRole('button', { name: 'Leave it' }).click()
  await expect(dialog).toHaveCount(0)
  await expect(page.getByText('Nothing was asked.')).toBeVisible()
  expect(asked).toHaveLength(0)
  await sweep.click()
  await dialog.getByRole('button', { name: 'Ask them' }).click()
  await expect.poll(() => asked.length).toBe(1)
  // Said once for this job; the next one goes on.
  await sweep.click()
  await expect.poll(() => asked.length).toBe(2)
  await expect(dialog).toHaveCount(0)
})

test('Ctrl K finds devices, handshakes, settings and stages', async ({ page }) => {
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await expect(page.getByRole('heading', { name: 'Line-up' })).toBeVisible()
  const find = async (text: string) => {
    await page.keyboard.press('Control+k')
    await expect(page.getByRole('dialog')).toBeVisible()
    await page.keyboard.type(text)
    await page.keyboard.press('Enter')
    await expect(page.getByRole('dialog')).toHaveCount(0)
  }
  await find('INV-301 proof')
  await expect(page.getByRole('heading', { name: 'INV-301: Battery power' })).toBeVisible()
  await find('10.20.40.30')
  await expect(page.locator('tr[aria-selected=true]')).toContainText('RIO-111')
  await find('stage Hand-over')
  await expect(page.getByRole('heading', { name: 'Hand-over' })).toBeVisible()
})

test('a job is renamed where its name stands, removed and brought back', async ({ page }) => {
  await page.getByRole('link', { name: /Weir Lane/ }).click()
  await page.getByRole('button', { name: /^Name of the job/ }).click()
  await page.getByRole('textbox', { name: 'Name of the job' }).fill('Weir Lane, north')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'Name of the job: Weir Lane, north. Edit' })).toBeVisible()
  await page.goto(app.url)
  await page.getByRole('button', { name: 'Remove Weir Lane, north' }).click()
  await expect(page.getByText('Weir Lane, north removed.')).toBeVisible()
  await expect(page.getByRole('link', { name: /Weir Lane/ })).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('link', { name: /Weir Lane, north/ })).toBeVisible()
})

test('evidence carries the name of who is at the page', async ({ page }) => {
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await page.getByRole('button', { name: /^Your name/ }).click()
  await page.getByRole('textbox', { name: 'Your name' }).fill('A. Lund')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'Your name: A. Lund. Edit' })).toBeVisible()
  await stage(page, 'Proof').click()
  await page.getByRole('button', { name: 'Reach it now' }).click()
  await expect(page.locator('[data-rung=reached]')).toContainText('A. Lund')
})

test('light and dark are remembered', async ({ page }) => {
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await page.getByRole('button', { name: 'Dark screen' }).click()
  await page.reload()
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark')
})
