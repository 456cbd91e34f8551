import { expect, test, type Page } from './test'
import { choose, stage, startApp, type RunningApp } from './app'

let app: RunningApp
test.beforeAll(async () => {
  app = await startApp()
})
test.afterAll(() => app.end())

// The second test reads the row that the first one makes: tried again, both are.
test.describe.configure({ mode: 'serial' })

const pick = (page: Page, tag: string) => choose(page.getByRole('combobox', { name: /^Handshake/ }), new RegExp(tag))
const gateway = (page: Page) => page.getByRole('listitem', { name: 'Front of GW-201' })
const hop = (page: Page) => page.locator('[data-hop]').first()

test('a new serial meter by keyboard only: its handshake, its terms, and both ends said to be in force', async ({
  page,
}) => {
  let keys = 0
  const press = async (...all: readonly string[]) => {
    for (const key of all) {
      keys += 1
      await page.keyboard.press(key)
    }
  }
  const type = async (text: string) => {
    keys += text.length
    await page.keyboard.type(text)
  }
  const tabTo = async (name: RegExp, most = 60) => {
    const target = page.getByRole('button', { name })
    await expect(target).toBeVisible()
    for (let k = 0; k < most; k += 1) {
      if (await target.evaluate((element) => element === document.activeElement)) return
      await press('Tab')
    }
    throw new Error(`Tab never came to ${name}`)
  }
  await page.goto(app.url)
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await expect(page.locator('tr[data-device]').first()).toBeVisible()
  await press('Control+k')
  await expect(page.getByRole('dialog')).toBeVisible()
  await type('FM-204')
  await press('Enter')
  await expect(page.locator('tr[aria-selected=true]')).toContainText('FM-204')
  await tabTo(/^Begin handshake with PLC-101/)
  await press('Enter')
  await expect(page.getByRole('button', { name: /^Function code of FM-204/ })).toBeFocused()
  // What the line-up knows stands there; the rest is typed down the column of the device.
  await press('Enter')
  for (const text of ['04', '30001', '2', 'float32', 'ABCD', '1']) {
    await type(text)
    await press('Tab')
  }
  await press('Escape')
  await page.getByRole('button', { name: /^Line settings of FM-204/ }).focus()
  keys += 1
  await press('Enter')
  await type('9600 8N1')
  await press('Enter')
  await tabTo(/^Write the \d open terms of PLC-101 as FM-204 says/)
  await press('Enter')
  await expect(page.getByText('11 of 11', { exact: true })).toBeVisible()
  await tabTo(/^They are in force at both ends/)
  await press('Enter')
  await expect(page.getByText(/^Agreed: All 11 terms/)).toBeVisible()
  console.log(`a new serial meter by keyboard: ${keys} keys`)
  expect(keys).toBeLessThan(120)
})

test('two units on one number, and swapped words: found, mended in their menus and at the terms, read right', async ({
  page,
}) => {
  await page.goto(app.url)
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await stage(page, 'Terms').click()
  // FM-201 sends its words the other way round: the clasp says what that makes of the value.
  await pick(page, 'FM-201')
  await page.getByRole('button', { name: 'Set PLC-101 to CDAB' }).click()
  await expect(page.getByText('11 of 11', { exact: true })).toBeVisible()
  await page.getByRole('link', { name: 'On to Proof' }).click()
  await expect(hop(page).locator('[data-value]')).toContainText('42.')
  // FM-204 came with the number of FM-201: with its supply on neither is heard.
  await stage(page, 'Bench').click()
  await choose(gateway(page).getByRole('combobox', { name: 'Supply of FM-204' }), 'on')
  await page.goBack()
  await expect(hop(page)).toContainText('It answers exception 11')
  await page.goForward()
  await choose(gateway(page).getByRole('combobox', { name: 'Number in the menu of FM-204' }), '4')
  await page.goBack()
  // Entered is not in force.
  await expect(hop(page)).toContainText('It answers exception 11')
  await page.goForward()
  await gateway(page).getByRole('button', { name: 'Restart FM-204' }).click()
  await page.goBack()
  await expect(hop(page).locator('[data-value]')).toContainText('42.')
  await pick(page, 'FM-204')
  await expect(hop(page).locator('[data-value]')).toContainText(/3[45]\.\d/)
  await page.getByRole('button', { name: 'Reach it now' }).click()
  await expect(page.getByText(/^Answered at 10\.20\.40\.40:502, unit 4/)).toBeVisible()
  // What answered there is in force at the device, and the legs of the way are told.
  await stage(page, 'Terms').click()
  await pick(page, 'FM-204')
  await expect(page.locator('[data-term="unit-id"] [data-standing="in-force"]').first()).toBeVisible()
  await expect(page.getByLabel('Legs of the way')).toContainText('GW-201 – FM-204')
})
