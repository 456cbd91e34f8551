import { expect, test } from './test'
import { choose, stage, startApp, type RunningApp } from './app'

let app: RunningApp
test.beforeEach(async () => {
  app = await startApp()
})
test.afterEach(() => app.end())

test('a stand-in that swaps its words: the verdict fails, and proven cannot be recorded', async ({ page }) => {
  await page.goto(app.url)
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await stage(page, 'Terms').click()
  await page.getByRole('button', { name: 'Set PLC-101 to ABCD' }).click()
  await expect(page.getByText('10 of 10', { exact: true })).toBeVisible()
  await stage(page, 'Bench').click()
  await page.getByRole('switch', { name: 'Words swapped, EM-501' }).click()
  await stage(page, 'Proof').click()
  await expect(page.locator('[data-verdict]')).toHaveAttribute('data-verdict', 'at-odds')
  await expect(page.getByText(/EM-501 itself does not show the reference/)).toBeVisible()
  await page.getByLabel(/What Pump house screen shows/).fill('230.4')
  await expect(page.getByRole('button', { name: /Record reading as at odds/ })).toBeVisible()
  await expect(page.getByRole('button', { name: /as proven/ })).toHaveCount(0)
  await page.getByRole('button', { name: /Record reading as at odds/ }).click()
  await expect(page.locator('[data-rung=reading]')).toHaveAttribute('data-state', 'at-odds')
})

test('what goes wrong on the wire is told, never shown as a value', async ({ page }) => {
  await page.goto(app.url)
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  const turn = async (name: string) => {
    await stage(page, 'Bench').click()
    await page.getByRole('switch', { name: `${name}, EM-501` }).click()
    await stage(page, 'Proof').click()
  }
  const device = page.locator('[data-hop]').first()
  for (const [fault, said] of [
    ['Silent', /Nothing answered within 1000 ms/],
    ['Wrong unit', /Another unit answered/],
    ['Exception 2', /exception 2, illegal data address/],
  ] as const) {
    await turn(fault)
    await expect(device).toContainText(said)
    await expect(device.locator('[data-value]')).toHaveText('–')
    await turn(fault)
    await expect(device.locator('[data-value]')).toContainText('230')
  }
})

test('a value that stands still is stale and records nothing; back again, a double click records one reading', async ({
  page,
}) => {
  await page.goto(app.url)
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await stage(page, 'Terms').click()
  await page.getByRole('button', { name: 'Set PLC-101 to ABCD' }).click()
  await expect(page.getByText('10 of 10', { exact: true })).toBeVisible()
  await stage(page, 'Proof').click()
  const device = page.locator('[data-hop]').first()
  const record = page.getByRole('button', { name: /^Record reading/ })
  await page.getByLabel(/What Pump house screen shows/).fill('230.4')
  await expect(page.getByRole('button', { name: /as proven/ })).toBeEnabled()
  // The connection stays open and nothing comes over it: what stands there is not live.
  app.freeze(true)
  try {
    await expect(device).toHaveAttribute('data-state', 'stale', { timeout: 15_000 })
    await expect(device).toContainText('not live any more')
    await expect(page.getByRole('button', { name: /as proven/ })).toHaveCount(0)
  } finally {
    app.freeze(false)
  }
  await expect(device).toHaveAttribute('data-state', 'inside', { timeout: 20_000 })
  // What was typed before it stood still is of then.
  await expect(page.getByText(/Typed before this reading was made/).first()).toBeVisible()
  await page.getByLabel(/What Pump house screen shows/).fill('230.3')
  await expect(page.getByRole('button', { name: /as proven/ })).toBeEnabled()
  const before = await evidenceCount()
  await record.dblclick()
  await expect(page.locator('[data-rung=reading]')).toHaveAttribute('data-state', 'proven')
  expect(await evidenceCount()).toBe(before + 1)
})

/** Readings of the sample job that are recorded. */
async function evidenceCount(): Promise<number> {
  const jobs = (await (await fetch(`${app.url}/api/jobs`)).json()) as { id: string; name: string }[]
  const id = jobs.find(({ name }) => name === 'Heron Mill hatchery')?.id ?? ''
  const job = (await (await fetch(`${app.url}/api/jobs/${id}`)).json()) as { evidence: { rung: string }[] }
  return job.evidence.filter(({ rung }) => rung === 'reading').length
}

test('evidence falls back visibly when the address changes afterwards', async ({ page }) => {
  await page.goto(app.url)
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await stage(page, 'Proof').click()
  await page.getByRole('button', { name: 'Reach it now' }).click()
  await expect(page.locator('[data-rung=reached]')).toHaveAttribute('data-state', 'proven')
  await stage(page, 'Line-up').click()
  await page.getByRole('button', { name: /Planned address of EM-501/ }).click()
  await page.getByLabel('Planned address of EM-501').fill('10.20.40.55')
  await page.keyboard.press('Enter')
  await stage(page, 'Proof').click()
  await expect(page.locator('[data-rung=reached]')).toHaveAttribute('data-state', 'in-hand')
  await expect(page.locator('[data-rung=reached]')).toContainText('changed from 10.20.40.50 to 10.20.40.55 since')
  await expect(page.locator('[data-hop]').first()).toContainText('nothing listens on this port')
})

test('a controller that cannot be asked: the device is held, both screens are typed, and the time between is told', async ({
  page,
}) => {
  await page.goto(app.url)
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await stage(page, 'Proof').click()
  await page.getByRole('button', { name: 'Change what is read' }).click()
  await page.getByLabel('Register where PLC-101 serves the tag').fill('5x100')
  await expect(page.getByText('"5x100" is not a register reference.')).toBeVisible()
  await page.getByLabel('Register where PLC-101 serves the tag').fill('')
  await page.getByLabel('Screen where people see it').fill('')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await expect(page.locator('[data-hop]')).toHaveCount(2)
  await expect(page.locator('[data-hop]').first().locator('[data-value]')).toContainText('230')

  await page.keyboard.press('h')
  const held = await page.locator('[data-hop]').first().locator('[data-word]').allTextContents()
  await page.waitForTimeout(1500)
  expect(await page.locator('[data-hop]').first().locator('[data-word]').allTextContents()).toEqual(held)
  const typed = page.getByLabel(/What PLC-101 shows/)
  await typed.fill('230,5')
  await expect(page.getByText(/The value has a comma/)).toBeVisible()
  await page.getByRole('button', { name: 'Use 230.5' }).click()
  await expect(page.locator('[data-verdict]')).toHaveAttribute('data-verdict', 'proven')
  await expect(page.getByText(/[1-9]\d*\.\d s lie between the readings/)).toBeVisible()
  await page.getByRole('button', { name: /Record reading as proven/ }).click()
  await expect(page.locator('[data-rung=reading]')).toContainText('PLC-101 230.5 V')
  // Recorded, it is live again.
  await expect(page.getByRole('button', { name: /Hold the device side/ })).toBeVisible()
})

test('the tolerance decides: narrowed, the same reading is at odds; what cannot be a tolerance is told', async ({
  page,
}) => {
  await page.goto(app.url)
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await stage(page, 'Terms').click()
  await page.getByRole('button', { name: 'Set PLC-101 to ABCD' }).click()
  await stage(page, 'Proof').click()
  await expect(page.locator('[data-hop]').nth(1)).toHaveAttribute('data-state', 'inside')
  await page.getByRole('button', { name: '± 1 % of the reference' }).click()
  await choose(page.getByRole('dialog').getByLabel('Kind'), 'fixed amount')
  await page.getByLabel('Amount, in the unit of the value').fill('0,01')
  await expect(page.getByRole('alert').filter({ hasText: 'comma' })).toBeVisible()
  await page.getByRole('button', { name: 'Use 0.01' }).click()
  await page.getByRole('button', { name: 'Set', exact: true }).click()
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await page.getByRole('button', { name: /Reference value/ }).click()
  await page.getByLabel('Reference value').fill('231.9')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-hop]').first()).toHaveAttribute('data-state', 'outside')
  await expect(page.getByText(/EM-501 itself does not show the reference/)).toBeVisible()
})

test('many points: each is read and proven by itself, and the rung waits for every one that is asked for', async ({
  page,
}) => {
  await page.goto(app.url)
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await stage(page, 'Terms').click()
  await page.getByRole('button', { name: 'Set PLC-101 to ABCD' }).click()
  await expect(page.getByText('10 of 10', { exact: true })).toBeVisible()
  await stage(page, 'Proof').click()
  const points = page.getByRole('tablist', { name: 'Points' })
  await expect(points.getByRole('tab')).toHaveCount(3)
  await expect(points.getByRole('tab', { name: /Frequency/ })).toContainText(/(49|50)\.\d\d Hz/)
  await expect(points.getByRole('tab', { name: /Frequency/ })).toContainText('need not be proven')

  // By keyboard from the voltage to the frequency; then it is asked for.
  await points.getByRole('tab', { name: /Voltage/ }).focus()
  await page.keyboard.press('ArrowDown')
  await expect(page.getByRole('heading', { name: 'EM-501: Frequency' })).toBeVisible()
  await expect(page.locator('[data-hop]').first()).toContainText('from register 30023')
  await page.getByRole('button', { name: 'Change what is read' }).click()
  await page.getByRole('checkbox', { name: /Has to be proven/ }).click()
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await page.getByRole('button', { name: /Reference value/ }).click()
  await page.getByLabel('Reference value').fill('50')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-verdict]')).toHaveAttribute('data-verdict', 'proven')
  await page.getByRole('button', { name: /Record reading as proven/ }).click()
  const rung = page.locator('[data-rung=reading]')
  await expect(rung).toHaveAttribute('data-state', 'in-hand')
  await expect(rung).toContainText('1 of 2 points proven.')
  await expect(rung).toContainText('Still to be seen: Voltage L1 to N.')

  await points.getByRole('tab', { name: /Voltage/ }).click()
  await page.getByLabel(/What Pump house screen shows/).fill('230.4')
  await page.getByRole('button', { name: /Record reading as proven/ }).click()
  await expect(rung).toHaveAttribute('data-state', 'proven')
  await expect(rung).toContainText('All 2 points proven: Voltage L1 to N, Frequency.')

  // A point more, taken back by one key.
  await page.getByRole('button', { name: 'Add a point' }).click()
  await expect(points.getByRole('tab')).toHaveCount(4)
  await page.keyboard.press('Control+z')
  await expect(points.getByRole('tab')).toHaveCount(3)
})

test('a unit with another parity: silent behind its gateway, set in its menu, restarted, read; then agreed', async ({
  page,
}) => {
  await page.goto(app.url)
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await stage(page, 'Terms').click()
  await choose(page.getByRole('combobox', { name: /^Handshake/ }), /FM-203/)
  await page.getByRole('link', { name: 'On to Proof' }).click()
  const device = page.locator('[data-hop]').first()
  await expect(device).toContainText('It answers exception 11')
  await expect(device).toContainText('the unit behind it stayed silent')

  await stage(page, 'Bench').click()
  const gateway = page.getByRole('listitem', { name: 'Front of GW-201' })
  await choose(gateway.getByRole('combobox', { name: 'Line in the menu of FM-203' }), '9600 8N1')
  await page.goBack()
  // Entered is not in force: it is as silent as before.
  await expect(device).toContainText('It answers exception 11')
  await page.goForward()
  await gateway.getByRole('button', { name: 'Restart FM-203' }).click()
  await page.goBack()
  await expect(device.locator('[data-value]')).toContainText('17.')

  await page.getByRole('button', { name: 'Reach it now' }).click()
  await expect(page.getByText(/^Not reached: GW-201 answers exception 11/)).toHaveCount(0)
  await stage(page, 'Terms').click()
  await choose(page.getByRole('combobox', { name: /^Handshake/ }), /FM-203/)
  await page.getByRole('button', { name: 'Set FM-203 to 9600 8N1' }).click()
  await page.getByRole('button', { name: 'They are in force at both ends' }).click()
  await expect(page.getByText(/^Agreed: All 11 terms/)).toBeVisible()
})
