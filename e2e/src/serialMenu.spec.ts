import { expect, test, type Page } from './test'
import { startApp, talk, type RunningApp } from './app'

let app: RunningApp
test.beforeAll(async () => {
  app = await startApp()
})
test.afterAll(() => app.end())
const { get, send } = talk(() => app)

const open = async (page: Page, view = '') => {
  const jobs = await get<readonly { readonly id: string; readonly name: string }[]>('/jobs')
  const id = jobs.find(({ name }) => name.includes('rehearsal'))?.id ?? ''
  await page.goto(`${app.url}/jobs/${id}/first-contact${view}`)
  return id
}
const stop = (page: Page, title: RegExp) =>
  page.getByRole('list', { name: 'Stops of the walk' }).getByRole('button', { name: title }).first()
const step = (page: Page) => page.getByRole('region', { name: 'The step in hand' })
const next = (page: Page) => page.getByRole('complementary', { name: 'Next to type' })
const screen = (page: Page) => page.locator('.xterm-rows')

test('a card is set in its serial menu: prompts and answers from its kind, user and password by hand', async ({
  page,
}) => {
  test.setTimeout(120_000)
  await send('PUT', '/bench-laptop', {
    addresses: [{ address: '10.20.40.5', prefix: 24 }],
    cable: 'switch',
    speed: 100,
  })
  await open(page)
  await page.getByRole('button', { name: 'Begin the walk' }).click()
  await expect(page.locator('[data-walk]')).toBeVisible()
  await stop(page, /Put Q4 on/).click()
  await step(page)
    .getByRole('button', { name: /I have read/ })
    .click()
  await page.getByRole('button', { name: /All as drawn/ }).click()
  // Read off the rear label here, it is typed into the card later.
  await page.getByLabel('Code of the unit, on its rear label').fill('4711')
  await step(page)
    .getByRole('button', { name: /^Record/ })
    .click()
  await send('POST', '/bench-fronts/UPS-401', { act: 'power', on: true })
  await step(page).getByRole('button', { name: /^Done/ }).click()

  await stop(page, /Set UPS-401/).click()
  await step(page).getByRole('button', { name: /^Done/ }).click()
  await step(page).getByText('Fixed', { exact: true }).click()
  await step(page)
    .getByRole('button', { name: /That it is/ })
    .click()
  await expect(step(page).getByRole('list', { name: 'Prompts and answers' })).toContainText('code:4711')
  await step(page)
    .getByRole('link', { name: /Its console/ })
    .click()

  await page.getByRole('button', { name: 'Open' }).click()
  await expect(page.getByRole('button', { name: 'Close and keep the text' })).toBeVisible()
  // Nothing is on the screen: the program wakes it, and leaves user and password to the person.
  await page.keyboard.press('Control+Enter')
  await expect(next(page).getByRole('status')).toContainText('It asks for “user:”')
  await page.keyboard.type('admin\r')
  await expect(next(page).getByRole('status')).toContainText('It asks for “password:”')
  await page.keyboard.type('secret\r')
  await expect(screen(page)).toContainText('battery 97 %')
  // What the menu said settles the step; the next one stands there.
  await expect(next(page)).toContainText('In its menu: address 10.20.40.61')
  await expect(next(page).getByLabel('Read off the console')).toContainText('battery 97 %')

  // Somebody is in another place of the menu: nothing is sent there, and it is said what stands there.
  await page.keyboard.type('3\r')
  await expect(screen(page)).toContainText('service (modbus on, modbus off):')
  await page.keyboard.press('Control+Enter')
  await expect(next(page).getByRole('alert')).toContainText('The menu shows what its description does not have here')
  await expect(next(page).getByRole('alert')).toContainText('service (modbus on, modbus off):')
  await page.keyboard.type('\r')
  await page.keyboard.press('Control+Enter')
  await expect(next(page)).toContainText('Services: Modbus on')
  await page.keyboard.press('Control+Enter')
  await expect(next(page)).toContainText('Save and restart')
  await page.keyboard.press('Control+Enter')
  await expect(screen(page)).toContainText('restarting')
  await expect(page.getByRole('button', { name: 'Open' })).toBeVisible()
  await expect
    .poll(async () => {
      const { fronts } = await get<{ fronts: readonly { tag: string; address: string | null }[] }>('/bench-fronts')
      return fronts.find(({ tag }) => tag === 'UPS-401')?.address
    })
    .toBe('10.20.40.61')

  await open(page, '?view=kept')
  await page.getByRole('button', { name: 'Console bench:UPS-401' }).click()
  const text = page.getByRole('dialog').locator('pre')
  await expect(text).toContainText('user: admin')
  await expect(text).not.toContainText('secret')
})
