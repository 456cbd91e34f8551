import { randomUUID } from 'node:crypto'
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { expect, test } from './test'
import { changeElsewhere, type RunningApp, stage, startApp } from './app'
import { freePort } from './ports'

let app: RunningApp
test.beforeAll(async () => {
  app = await startApp()
})
test.afterAll(() => app.end())

const jobs = async (url: string) =>
  (await (await fetch(`${url}/api/jobs`)).json()) as readonly { readonly id: string; readonly name: string }[]

test('a change made between the loading of a page and its listening reaches it', async ({ page }) => {
  const job = (await jobs(app.url)).find((each) => each.name === 'Heron Mill hatchery')
  let let_ = () => {}
  const held = new Promise<void>((done) => (let_ = done))
  await page.route('**/stream*', async (route) => {
    await held
    await route.continue()
  })
  await page.goto(`${app.url}/jobs/${job?.id}/line-up`)
  await expect(page.getByText('pump house').first()).toBeVisible()
  // Somebody else changes the place while this page has the job but does not listen yet.
  const now = (await (await fetch(`${app.url}/api/jobs/${job?.id}`)).json()) as { id: string; version: number }
  await changeElsewhere(app, now.id, 'job', now, { place: 'pump house, level 2' })
  await expect(page.getByText('pump house, level 2')).toHaveCount(0)
  let_()
  await expect(page.getByText('pump house, level 2').first()).toBeVisible()
})

test('200 000 rows of a table: the page answers, says what it took, and takes it', async ({ page }) => {
  await page.goto(app.url)
  await page.getByRole('link', { name: /Weir Lane/ }).click()
  await expect(page.getByRole('button', { name: /^Planned address of/ }).first()).toBeVisible()
  await page.keyboard.press('p')
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText('at most 5 000 rows and 10 MB')
  const rows = Array.from({ length: 200_000 }, (_, k) => `T-${k};10.${k % 200}.1.5;${(k % 247) + 1}`)
  const csv = `Tag;IP address;Unit\n${rows.join('\n')}`
  const start = Date.now()
  await dialog
    .getByLabel('CSV or XLSX file')
    .setInputFiles({ name: 'large.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) })
  await expect(dialog).toContainText('The first 5001 rows are read; the rest waits and is taken in a second go.')
  expect(Date.now() - start).toBeLessThan(15_000)
  const large = Buffer.alloc(11 * 1024 * 1024, 'x')
  await dialog.getByLabel('CSV or XLSX file').setInputFiles({ name: 'huge.csv', mimeType: 'text/csv', buffer: large })
  await expect(dialog.getByRole('alert')).toContainText('The file is too large: 11.0 MB.')
})

test('behind a passcode: log out, and the page asks again', async ({ page }) => {
  const guarded = await startApp({ passcode: 'hands on 22' })
  try {
    await page.goto(guarded.url)
    await page.getByLabel(/Your name/).fill('A. Lund')
    await page.getByLabel('Passcode').fill('hands on 22')
    await page.getByRole('button', { name: 'Come in' }).click()
    await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
    await expect(page.getByText('A. Lund, technician')).toBeVisible()
    await page.getByRole('button', { name: 'Log out' }).click()
    await expect(page.getByLabel('Passcode')).toBeVisible()
  } finally {
    await guarded.end()
  }
})

test('a device that is not in the order keeps another out of it, until its lead is out', async ({ page }) => {
  const body = (content: unknown) => ({
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(content),
  })
  const begun = await fetch(`${app.url}/api/jobs`, body({ name: 'Twins', place: '', mode: 'bench' }))
  const { id } = (await begun.json()) as { id: string }
  const at = `${app.url}/api/jobs/${id}`
  const lan = { name: 'lan', cidr: '10.20.40.0/24', gateway: null, vlan: null, dhcp: '', reserved: '' }
  const network = { op: 'add', table: 'network', id: randomUUID(), fields: lan }
  // EM-3 was found at its place, so Q15 has power, and EM-2 with it.
  const rows = [
    ['EM-1', '10.20.40.21', '192.168.1.20', 'Q14'],
    ['EM-2', null, '10.20.40.21', 'Q15'],
    ['EM-3', '10.20.40.30', '10.20.40.30', 'Q15'],
  ].flatMap(([tag, address, asFound, isolation], k) => {
    const deviceId = randomUUID()
    const device = { position: k, tag, what: 'Meter', kind: 'meter', unitId: 1, asFound, isolation }
    const port = { deviceId, networkId: address ? network.id : null, address }
    return [
      { op: 'add', table: 'device', id: deviceId, fields: device },
      { op: 'add', table: 'port', id: randomUUID(), fields: port },
    ]
  })
  expect((await fetch(`${at}/changes`, body({ changes: [network, ...rows] }))).status).toBe(204)
  await page.goto(`${app.url}/jobs/${id}/first-contact`)
  const out = page.getByRole('region', { name: 'Not in the order' })
  await expect(out).toContainText('1 not in the order')
  await expect(out).toContainText('EM-2 is not in the order and holds 10.20.40.21, the planned address of EM-1.')
  await out.getByRole('button', { name: 'Lead of EM-2 is out' }).click()
  await expect(out).toHaveCount(0)
  await page.getByRole('button', { name: 'Begin the walk' }).click()
  await expect(page.locator('[data-walk]')).toBeVisible()
  const set = page.getByRole('button', { name: /Set EM-1 to 10.20.40.21/ })
  await set.click()
  await expect(page.getByRole('region', { name: 'The step in hand' })).toBeVisible()
  // It counts until it is plugged in again: then the stop waits.
  await page.getByRole('button', { name: '1 temporary thing not back yet' }).click()
  await expect(page.getByRole('dialog')).toContainText('Network lead of EM-2 pulled')
  await page.getByRole('button', { name: 'It is back' }).click()
  await page.keyboard.press('Escape')
  await set.click()
  const held = page.getByRole('region', { name: 'What this stop waits for' })
  await expect(held).toContainText('EM-1 is not set: EM-1 and EM-2 would both be live at 10.20.40.21')
  await expect(held.getByRole('button', { name: 'Lead of EM-2 is out' })).toBeVisible()
})

test('a large workbook is read beside everything else', async () => {
  const rows = Array.from({ length: 200_000 }, (_, k) => `<row r="${k + 1}"><c r="A${k + 1}"><v>${k}</v></c></row>`)
  const { strToU8, zipSync } = await import('fflate')
  const main = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main'
  const office = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships'
  const bytes = zipSync({
    '[Content_Types].xml': strToU8(
      '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>',
    ),
    '_rels/.rels': strToU8(
      `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="${office}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    ),
    'xl/workbook.xml': strToU8(
      `<workbook xmlns="${main}" xmlns:r="${office}"><sheets><sheet name="L" sheetId="1" r:id="rId1"/></sheets></workbook>`,
    ),
    'xl/_rels/workbook.xml.rels': strToU8(
      `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="${office}/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`,
    ),
    'xl/worksheets/sheet1.xml': strToU8(
      `<worksheet xmlns="${main}"><sheetData>${rows.join('')}</sheetData></worksheet>`,
    ),
  })
  const reading = fetch(`${app.url}/api/tables/read`, { method: 'POST', body: new Blob([bytes as BlobPart]) })
  let slowest = 0
  let asked = 0
  let done = false
  void reading.finally(() => (done = true))
  while (!done) {
    const start = performance.now()
    await fetch(`${app.url}/api/health`)
    slowest = Math.max(slowest, performance.now() - start)
    asked += 1
  }
  const answer = await reading
  expect(answer.status).toBe(200)
  expect(asked).toBeGreaterThan(5)
  // Read on the server's own thread it would be held up for seconds.
  expect(slowest).toBeLessThan(1_000)
})

const root = fileURLToPath(new URL('../..', import.meta.url))

test('npm run demo, ended by whatever means, leaves no server behind; a second demo has stand-ins of its own', async () => {
  test.setTimeout(120_000)
  const dataDir = mkdtempSync(join(tmpdir(), 'calm-npm-'))
  const port = await freePort()
  const demo = spawn('npm', ['run', 'demo', '--', '--data', dataDir, '--port', String(port)], {
    cwd: root,
    env: { ...process.env, LOG_LEVEL: 'warn' },
    stdio: 'ignore',
    detached: true,
  })
  const answers = () =>
    fetch(`http://127.0.0.1:${port}/api/health`).then(
      (answer) => answer.ok,
      () => false,
    )
  await expect.poll(answers, { timeout: 60_000 }).toBe(true)
  // This test's own app runs beside it: neither serves on the other's addresses.
  const servedAt = async (url: string) =>
    ((await (await fetch(`${url}/api/bench`)).json()) as { servedAt: string }[]).map(
      (each) => each.servedAt.split(':')[0],
    )
  const [mine, theirs] = [await servedAt(app.url), await servedAt(`http://127.0.0.1:${port}`)]
  expect(mine.filter((host) => theirs.includes(host))).toEqual([])
  // A second one on the same folder is told who has it.
  const second = spawn(process.execPath, ['tools/demo.mjs', '--data', dataDir, '--port', '0'], {
    cwd: root,
    env: { ...process.env, LOG_LEVEL: 'warn' },
  })
  let said = ''
  for (const stream of [second.stdout, second.stderr]) stream.on('data', (part) => (said += String(part)))
  const code = await new Promise((done) => second.once('exit', done))
  expect([code, said]).toEqual([
    1,
    expect.stringMatching(new RegExp(`in use already by process \\d+, at port ${port}`)),
  ])
  expect(said).not.toMatch(/\n\s+at /)
  // npm itself is killed, so that it can hand nothing on.
  process.kill(demo.pid ?? 0, 'SIGKILL')
  await expect.poll(answers, { timeout: 20_000 }).toBe(false)
  rmSync(dataDir, { recursive: true, force: true })
})

test('the stage of the job is still there after all that', async ({ page }) => {
  await page.goto(app.url)
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await expect(stage(page, 'Line-up')).toBeVisible()
})
