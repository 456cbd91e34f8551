import { expect, test } from './test'
import { startApp, talk, type RunningApp } from './app'

let app: RunningApp
test.beforeAll(async () => {
  app = await startApp()
})
test.afterAll(() => app.end())
const { get, send } = talk(() => app)

test('while a drive starts another breaker is offered; when it rings, one key goes back', async ({ page }) => {
  const jobs = await get<readonly { readonly id: string; readonly name: string }[]>('/jobs')
  const id = jobs.find(({ name }) => name.includes('rehearsal'))?.id ?? ''
  // A start-up of 25 s takes 5 s here: long enough to go elsewhere.
  await send('PUT', '/bench-laptop', {
    addresses: [{ address: '192.168.1.5', prefix: 24 }],
    cable: 'switch',
    speed: 5,
  })
  await page.goto(`${app.url}/jobs/${id}/first-contact`)
  await page.getByRole('button', { name: 'Begin the walk' }).click()
  await expect(page.locator('[data-walk]')).toBeVisible()
  const heading = page.locator('[data-walk] h2').first()
  await page
    .getByRole('list', { name: 'Stops of the walk' })
    .getByRole('button', { name: /Put Q11 on/ })
    .first()
    .click()
  const step = page.getByRole('region', { name: 'The step in hand' })
  await step.getByRole('button', { name: /I have read both/ }).click()
  await page.getByRole('button', { name: /All as drawn/ }).click()
  await page.getByLabel('Order code on its label').fill('VD-110-4-E')
  await page.getByLabel('Serial number').fill('S4 7C11')
  await step.getByRole('button', { name: /^Record/ }).click()
  await expect(step).toContainText('Put Q11 on: PD-101')
  await expect(page.getByText('Meanwhile may be done:')).toHaveCount(0)
  await send('POST', '/bench-fronts/PD-101', { act: 'power', on: true })
  await step.getByRole('button', { name: /^Done/ }).click()
  const offered = page.getByText('Meanwhile may be done:').locator('..').getByRole('button')
  // Never its twin: that one has the same factory address.
  await expect(offered).toContainText(/^Put Q(?!12)/)
  const title = (await offered.innerText()).split('\n')[0] ?? ''
  await page.keyboard.press('m')
  await expect(heading).toContainText(title.replace(/\s*M$/, ''))
  await expect(page.locator('[data-toast]')).toContainText('Back at 192.168.1.20', { timeout: 20_000 })
  await page.keyboard.press('b')
  await expect(heading).toContainText('Put Q11 on: PD-101')
  await expect(page.locator('[data-toast]')).toHaveCount(0)
})
