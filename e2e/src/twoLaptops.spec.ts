import { expect, test, type Page } from './test'
import { startApp, talk, type RunningApp } from './app'
import { rehearsal } from './jobParts'

let app: RunningApp
test.beforeAll(async () => {
  app = await startApp()
})
test.afterAll(() => app.end())
const talking = talk(() => app)

const step = (page: Page) => page.getByRole('region', { name: 'The step in hand' })

const stopOf = (page: Page) =>
  page
    .getByRole('list', { name: 'Stops of the walk' })
    .getByRole('button', { name: /Put Q3 on/ })
    .first()

test('the walk begun on two laptops: the second is told, nothing of the first is lost, and both go on in one walk', async ({
  page,
  browser,
}) => {
  const { id } = await rehearsal(talking)
  const walk = `${app.url}/jobs/${id}/first-contact`
  const context = await browser.newContext()
  const other = await context.newPage()
  // What happens on the first laptop does not reach the second: its network is poor just then.
  await other.route('**/stream**', (route) => route.abort())
  const begin = (on: Page) => on.getByRole('button', { name: 'Begin the walk' })
  await page.goto(walk)
  await other.goto(walk)
  await expect(begin(other)).toBeEnabled({ timeout: 20_000 })
  await begin(page).click()
  await expect(page.locator('[data-walk]')).toBeVisible()
  await stopOf(page).click()
  await step(page)
    .getByRole('button', { name: /I have read/ })
    .click()
  const settled = async () =>
    (await talking.get<{ steps: readonly { stepKey: string }[] }>(`/jobs/${id}/walk`)).steps.map(
      ({ stepKey }) => stepKey,
    )
  await expect(step(page).getByRole('button', { name: /I have read/ })).toHaveCount(0)
  const before = await settled()
  expect(before.length).toBeGreaterThan(1)

  await begin(other).click()
  await expect(other.getByText('Somebody else changed the order meanwhile')).toBeVisible()
  expect(await settled()).toEqual(expect.arrayContaining([...before]))
  // What was begun elsewhere is there, without a reload; one step is settled by both: the second is told by whom.
  await expect(other.locator('[data-walk]')).toBeVisible()
  await stopOf(other).click()
  await expect(step(other)).toContainText((await step(page).getByRole('heading').innerText()).trim())
  await context.close()
})
