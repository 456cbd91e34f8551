import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from './test'
import { changeElsewhere, type RunningApp, stage, startApp } from './app'
import { ownJobs } from './ownJob'

test.describe('fields', () => {
  const jobs = ownJobs()

  test('addresses that cannot be: each gets its reason, and what was typed stays', async ({ page }) => {
    await jobs.open(page, 'Heron Mill hatchery')
    await page.getByRole('button', { name: /Planned address of EM-501/ }).click()
    const field = page.getByLabel('Planned address of EM-501')
    for (const [typed, reason] of [
      ['10.20.40.256', /above 255/],
      ['010.20.40.4', /leading zeros/],
      ['10.20.40.4/33', /carries a mask/],
      ['10.20.40 .4', /spaces inside/],
      ['10.20.40.4:502', /carries a port/],
    ] as const) {
      await field.fill(typed)
      await field.press('Enter')
      await expect(page.getByRole('alert').filter({ hasText: reason })).toBeVisible()
      await expect(field).toHaveValue(typed)
      await expect(field).toHaveAttribute('aria-invalid', 'true')
    }
    await field.press('Escape')
    await expect(page.getByRole('button', { name: 'Planned address of EM-501: 10.20.40.50. Edit' })).toBeVisible()
  })

  test('unit 248, port 70000, count 126, a register in the wrong notation', async ({ page }) => {
    await jobs.open(page, 'Heron Mill hatchery')
    await page.getByRole('button', { name: /Unit id of EM-501/ }).click()
    await page.getByLabel('Unit id of EM-501').fill('248')
    await page.keyboard.press('Enter')
    await expect(page.getByText(/Unit id 248 is outside 1 to 247/)).toBeVisible()
    await page.keyboard.press('Escape')

    await stage(page, 'Terms').click()
    const refused = async (term: string, typed: string, reason: RegExp) => {
      await page.getByRole('button', { name: new RegExp(`^${term} of PLC-101`) }).click()
      const field = page.getByRole('dialog').getByRole('textbox').first()
      await field.fill(typed)
      await field.press('Enter')
      await expect(page.getByRole('alert').filter({ hasText: reason })).toBeVisible()
      await expect(field).toHaveValue(typed)
      await page.keyboard.press('Escape')
      await expect(page.getByRole('dialog')).toHaveCount(0)
    }
    await refused('TCP port', '70000', /outside 1 to 65535/)
    await refused('Count', '126', /at most 125 registers/)
    await refused('First register', '5x100', /not a register reference/)
  })

  test('a reference that is no number, or has a decimal comma', async ({ page }) => {
    await jobs.open(page, 'Heron Mill hatchery')
    await stage(page, 'Proof').click()
    await page.getByRole('button', { name: /Reference value/ }).click()
    const field = page.getByLabel('Reference value')
    await field.fill('about 230')
    await field.press('Enter')
    await expect(page.getByText('"about 230" is not a number.')).toBeVisible()
    await field.fill('230,4')
    await field.press('Enter')
    await expect(field).toHaveValue('230,4')
    await page.getByRole('button', { name: 'Use 230.4' }).click()
    await expect(page.getByRole('button', { name: 'Reference value: 230.4. Edit' })).toBeVisible()
  })

  test('somebody else saved meanwhile: both versions are told, nothing is overwritten', async ({ page }) => {
    const jobId = await jobs.open(page, 'Heron Mill hatchery')
    // Changes by others arrive by themselves; here the page is kept from hearing of them.
    await page.route('**/stream**', (route) => route.abort())
    await page.reload()
    await page.getByRole('button', { name: /Planned address of EM-501/ }).click()
    const job = await (await fetch(`${jobs.app().url}/api/jobs/${jobId}`)).json()
    const port = job.devices.find((device: { tag: string }) => device.tag === 'EM-501').ports[0]
    await changeElsewhere(jobs.app(), jobId, 'port', port, { address: '10.20.40.52' })
    const field = page.getByLabel('Planned address of EM-501')
    await field.fill('10.20.40.53')
    await field.press('Enter')
    await expect(page.getByText(/Somebody else saved this meanwhile/)).toBeVisible()
    await expect(page.getByText(/It now says 10\.20\.40\.52; you typed 10\.20\.40\.53/)).toBeVisible()
    await expect(field).toHaveValue('10.20.40.53')
    await page.getByRole('button', { name: 'Save 10.20.40.53 instead' }).click()
    await expect(page.getByRole('button', { name: 'Planned address of EM-501: 10.20.40.53. Edit' })).toBeVisible()
  })
})

test.describe('files and the server', () => {
  let app: RunningApp
  test.beforeEach(async ({ page }) => {
    app = await startApp()
    await page.goto(app.url)
  })
  test.afterEach(() => app.end())

  test('job files that cannot be taken in change nothing', async ({ page }) => {
    const take = (name: string, content: string) =>
      page.getByLabel('Job file').setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(content) })
    await take('list.csv', 'tag;address')
    await expect(page.getByText(/The file is not JSON/)).toBeVisible()
    await take('newer.json', JSON.stringify({ format: 'calm-handshake-job', version: 99 }))
    await expect(page.getByText(/written by a newer program/)).toBeVisible()
    await take(
      'odd.json',
      JSON.stringify({
        format: 'calm-handshake-job',
        version: 1,
        exportedAt: '2026-01-01T00:00:00Z',
        job: { colour: 1 },
      }),
    )
    await expect(page.getByText('There is no field "colour" here.')).toBeVisible()
    await expect(page.getByText('job.name')).toBeVisible()
    const large = join(app.dataDir, 'large.json')
    writeFileSync(large, 'x'.repeat(50 * 1024 * 1024))
    await page.getByLabel('Job file').setInputFiles(large)
    await expect(page.getByText('The file is too large: 50.0 MB.')).toBeVisible()
    await expect(page.getByText('Nothing has changed.')).toBeVisible()
    await expect(page.getByRole('link', { name: /hatchery|lift station/ })).toHaveCount(2)
  })

  test('the server stopped while the page is open: it is said, what is typed stays, and saving works again', async ({
    page,
  }) => {
    await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
    await stage(page, 'Proof').click()
    await expect(page.locator('[data-hop]').first().locator('[data-value]')).toContainText('230')
    await app.stop()
    await expect(page.getByText(/The server does not answer since/)).toBeVisible()
    // What was read before is not live any more and does not look it.
    await expect(page.locator('[data-hop]').first().locator('[data-value]')).toHaveText('–')
    await page.getByRole('button', { name: /Reference value/ }).click()
    const field = page.getByLabel('Reference value')
    await field.fill('231.5')
    await field.press('Enter')
    await expect(page.getByText(/could not be saved\. What you typed stays here/)).toBeVisible()
    await expect(field).toHaveValue('231.5')
    await app.startAgain()
    await expect(page.getByText(/The server does not answer since/)).toHaveCount(0, { timeout: 15_000 })
    await field.press('Enter')
    await expect(page.getByRole('button', { name: 'Reference value: 231.5. Edit' })).toBeVisible()
    await expect(page.locator('[data-hop]').first().locator('[data-value]')).toContainText('230')
  })
})
