import { expect, test, type Page } from './test'
import { stage, startApp, type RunningApp } from './app'

/** The whole main job on the demo: once by mouse, once by keyboard only. */
let app: RunningApp
test.beforeEach(async () => {
  app = await startApp()
})
test.afterEach(() => app.end())

const verdict = (page: Page) => page.locator('[data-verdict]')

test('by mouse: plan an address, see a mismatch explained, read, compare, record, print', async ({ page }) => {
  await page.goto(app.url)
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()

  // Line-up: a duplicate with its reason and its way out; then a new device at a proposed address.
  await page.locator('tr', { hasText: 'UPS-401' }).getByText('Two devices, one address').click()
  await expect(page.getByText('UPS-401 and INV-301 are headed for 10.20.40.60')).toBeVisible()
  await page.getByRole('button', { name: 'Move UPS-401 to 10.20.40.61' }).click()
  await expect(page.getByRole('button', { name: 'Planned address of UPS-401: 10.20.40.61. Edit' })).toBeVisible()
  await expect(page.getByText('Two devices, one address')).toHaveCount(0)

  await page.getByRole('button', { name: 'Add a device' }).click()
  await page.getByLabel('Tag', { exact: true }).fill('EM-502')
  await page.getByLabel('What it is').fill('Second meter')
  await page.getByRole('button', { name: /Propose a free address/ }).click()
  await expect(page.getByLabel('Planned address', { exact: true })).toHaveValue('10.20.40.51')
  await page.getByRole('button', { name: 'Add', exact: true }).click()
  await expect(page.getByText('Added: EM-502. Next one?')).toBeVisible()
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).last().click()
  await expect(page.locator('tr', { hasText: 'EM-502' })).toContainText('10.20.40.51')

  // Terms: the clasp is open at the word order; the fix closes it.
  await page.locator('tr', { hasText: 'EM-501' }).locator('td').last().click()
  await page.getByRole('link', { name: 'Terms', exact: true }).last().click()
  await expect(page.getByText('9 of 10', { exact: true })).toBeVisible()
  await expect(page.getByText(/EM-501 sends high word first; PLC-101 takes it as low word first/)).toBeVisible()
  await expect(page.getByRole('button', { name: 'They are in force at both ends' })).toBeDisabled()
  await page.getByRole('button', { name: 'Set PLC-101 to ABCD' }).click()
  await expect(page.getByText('10 of 10', { exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'They are in force at both ends' }).click()
  await expect(page.getByText(/Agreed: All 10 terms agree/)).toBeVisible()

  // Proof: live at both hops, the screen typed, the device side held meanwhile.
  await page.getByRole('link', { name: 'On to Proof' }).click()
  await page.getByRole('button', { name: 'Reach it now' }).click()
  await expect(page.getByText(/Answered at 10.20.40.50:502, unit 1: vendor name Sample maker/)).toBeVisible()
  // What is held is what was read last: by then the controller must have asked in the new order.
  await expect(page.locator('[data-hop]').nth(1)).toHaveAttribute('data-state', 'inside')
  await page.getByRole('button', { name: /Hold the device side/ }).click()
  await page.getByLabel(/What Pump house screen shows/).fill('230.4')
  await expect(verdict(page)).toHaveAttribute('data-verdict', 'proven')
  await page.getByRole('button', { name: /Record reading as proven/ }).click()
  const reading = page.locator('[data-rung=reading]')
  await expect(reading).toHaveAttribute('data-state', 'proven')
  await expect(reading).toContainText('reference 230.4 V ± 1 % of the reference')

  // Hand-over: what is open, the forced values released, the record for print.
  await stage(page, 'Hand-over').click()
  await expect(page.getByText('2 values are forced. Release first.')).toBeVisible()
  await page.getByRole('button', { name: 'Seen released' }).first().click()
  await expect(page.getByText('1 value is forced. Release first.')).toBeVisible()
  await page.getByRole('link', { name: 'Open for print' }).click()
  await expect(page.getByRole('heading', { name: 'Heron Mill hatchery: as-left record' })).toBeVisible()
  await expect(page.getByText(/Voltage L1 to N: EM-501 230\.\d V/)).toBeVisible()
  await page.emulateMedia({ media: 'print' })
  await expect(page.getByRole('button', { name: 'Print' })).toBeHidden()
  const pdf = await page.pdf({ format: 'A4' })
  expect(pdf.subarray(0, 5).toString()).toBe('%PDF-')
  // A4 in points: 595 by 842.
  expect(pdf.toString('latin1')).toMatch(/MediaBox \[0 0 59[45](\.\d+)? 84[12](\.\d+)?\]/)
})

test('by keyboard only: the same', async ({ page }) => {
  const keys = page.keyboard
  const type = async (text: string) => {
    await keys.type(text)
    await keys.press('Enter')
  }
  /** Goes on with Tab until the focus is where a person would stop. */
  const tabTo = async (name: string | RegExp, role: 'button' | 'link' | 'textbox' = 'button') => {
    const target = page.getByRole(role, { name }).first()
    await expect(target).toBeVisible()
    for (let k = 0; k < 160; k += 1) {
      if (await target.evaluate((element) => element === document.activeElement)) return
      await keys.press('Tab')
    }
    throw new Error(`Tab never came to ${name}`)
  }
  await page.goto(app.url)
  await tabTo(/Heron Mill hatchery/, 'link')
  await keys.press('Enter')
  await expect(page.getByRole('heading', { name: 'Line-up' })).toBeVisible()
  await expect(page.getByText('Two devices, one address').first()).toBeVisible()

  // Ctrl K finds the device; Enter opens its address in place; a keypad's writing is refused with the likely reading.
  await keys.press('Control+k')
  await expect(page.getByRole('dialog')).toBeVisible()
  await keys.type('UPS-401')
  await keys.press('Enter')
  await expect(page.locator('tr[aria-selected=true]')).toContainText('UPS-401')
  await keys.press('Enter')
  await type('010.020.040.070')
  await expect(page.getByText(/leading zeros\. A keypad shows them/)).toBeVisible()
  await expect(page.getByLabel('Planned address of UPS-401')).toHaveValue('010.020.040.070')
  await keys.press('Tab')
  await tabTo('Use 10.20.40.70')
  await keys.press('Enter')
  await expect(page.getByRole('button', { name: 'Planned address of UPS-401: 10.20.40.70. Edit' })).toBeVisible()
  await keys.press('Control+z')
  await expect(page.getByRole('button', { name: 'Planned address of UPS-401: 10.20.40.60. Edit' })).toBeVisible()
  // F goes to the fix and never fires it.
  await expect(page.getByRole('button', { name: 'Move UPS-401 to 10.20.40.61' })).toBeVisible()
  await keys.press('f')
  await expect(page.getByRole('button', { name: 'Move UPS-401 to 10.20.40.61' })).toBeFocused()
  await expect(page.getByRole('button', { name: 'Planned address of UPS-401: 10.20.40.60. Edit' })).toBeVisible()
  await keys.press('Enter')
  await expect(page.getByRole('button', { name: 'Planned address of UPS-401: 10.20.40.61. Edit' })).toBeVisible()

  await keys.press('3')
  await expect(page.getByText('9 of 10', { exact: true })).toBeVisible()
  await keys.press('f')
  await expect(page.getByRole('button', { name: 'Set PLC-101 to ABCD' })).toBeFocused()
  await keys.press('Enter')
  await expect(page.getByText('10 of 10', { exact: true })).toBeVisible()
  await tabTo('They are in force at both ends')
  await keys.press('Enter')
  await expect(page.getByText(/Agreed: All 10 terms agree/)).toBeVisible()

  await keys.press('5')
  await tabTo('Reach it now')
  await keys.press('Enter')
  await expect(page.locator('[data-rung=reached]')).toHaveAttribute('data-state', 'proven')
  await expect(page.locator('[data-hop]').nth(1)).toHaveAttribute('data-state', 'inside')
  await keys.press('h')
  await expect(page.getByRole('button', { name: /Let the device side go/ })).toBeVisible()
  await tabTo(/What Pump house screen shows/, 'textbox')
  await keys.type('230.6')
  await expect(verdict(page)).toHaveAttribute('data-verdict', 'proven')
  await tabTo(/Record reading as proven/)
  await keys.press('r')
  await expect(page.locator('[data-rung=reading]')).toHaveAttribute('data-state', 'proven')

  await keys.press('6')
  await tabTo('Open for print', 'link')
  await keys.press('Enter')
  await expect(page.getByRole('heading', { name: 'Heron Mill hatchery: as-left record' })).toBeVisible()
})
