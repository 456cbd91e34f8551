import { expect, test, type Page } from './test'
import { startApp, talk, type RunningApp } from './app'

let app: RunningApp
test.beforeAll(async () => {
  app = await startApp()
})
test.afterAll(() => app.end())

interface Named {
  readonly id: string
  readonly tag: string
}

const { get, send } = talk(() => app)

/** The rehearsal with nothing but a meter head and its three modules to walk, all without power. */
async function headAndModules(): Promise<string> {
  const jobs = await get<readonly { readonly id: string; readonly name: string }[]>('/jobs')
  const id = jobs.find(({ name }) => name.includes('rehearsal'))?.id ?? ''
  const { devices } = await get<{ readonly devices: readonly Named[] }>(`/jobs/${id}`)
  const { version, settings } = await get<{ readonly version: number; readonly settings: object }>(`/jobs/${id}/walk`)
  const leftOut = devices.filter(({ tag }) => !/^M[HM]-51/.test(tag)).map((device) => device.id)
  await send('PUT', `/jobs/${id}/walk/settings`, {
    version,
    settings: { ...settings, leftOut, groups: { Q3: { live: false } } },
  })
  await send('PUT', '/bench-laptop', {
    addresses: [{ address: '10.20.40.5', prefix: 24 }],
    cable: 'switch',
    speed: 100,
  })
  return id
}

const front = (act: object) => send('POST', '/bench-fronts/MH-510', act)
const step = (page: Page) => page.getByRole('region', { name: 'The step in hand' })
const says = (page: Page, text: string | RegExp) => expect(step(page)).toContainText(text)

test('a head and a row of three modules: one stop, a tick for each press, read back all at once', async ({ page }) => {
  const id = await headAndModules()
  let actions = 0
  const press = async (name: RegExp) => {
    actions += 1
    await step(page).getByRole('button', { name }).click()
  }
  await page.goto(`${app.url}/jobs/${id}/first-contact`)
  await page.getByRole('button', { name: 'Begin the walk' }).click()

  // Everything before power is said once, for the head and for what hangs on it.
  await says(page, 'Isolate Q3, lock it, prove it dead before any terminal of MH-510, MM-511, MM-512 and MM-513')
  await says(page, 'When Q3 goes on')
  await press(/I have read both/)
  await says(page, 'Terminator and bias as planned')
  await expect(page.getByText('Current transformers: never open a secondary under load; short it first')).toBeVisible()
  actions += 1
  await page.getByRole('button', { name: /All as drawn/ }).click()
  actions += 2
  await page.getByLabel('Order code on its label').fill('MM-3')
  await page.getByLabel('Serial number').fill('S4 7C31')
  await press(/^Record/)
  await says(page, 'Put Q3 on: MH-510, MM-511, MM-512, MM-513')
  await front({ act: 'power', on: true })
  await press(/^Done/)
  // The clock runs from the moment that power came: nobody starts it.
  await says(page, 'Lamps of MH-510')
  await press(/^I see it/)
  // What only looks is looked at by itself: it answers at its planned address.
  await expect(page.getByRole('heading', { name: 'A row of 3 behind MH-510: MM-511 to MM-513' })).toBeVisible()
  await press(/I have read it/)
  await says(page, 'Start the search from the head module')
  await front({ act: 'press', id: 'search', seconds: 0 })
  await press(/^Done/)
  await says(page, 'shows that it waits to be pressed')
  await press(/^I see it/)
  const turns = step(page).getByRole('table', { name: 'The row, in turn' })
  await expect(turns.getByRole('row')).toHaveCount(4)
  await expect(turns.getByRole('row').nth(1)).toContainText('MM-511')
  await expect(turns.getByRole('row').nth(1)).toContainText('Meter module 1')
  for (const module of ['MM-511', 'MM-512', 'MM-513']) {
    await says(page, `Press the button of ${module} about 2 s`)
    await front({ act: 'press', id: module, seconds: 2.2 })
    // By key or by mouse: one each.
    actions += 1
    await page.keyboard.press('y')
  }
  // The last press set off the wait; what answers is compared by itself when it is over.
  await expect(page.getByText('Every stop is settled.')).toBeVisible()
  await expect(
    page.getByRole('list', { name: 'Stops of the walk' }).getByRole('button', { name: /A row of 3/ }),
  ).toBeVisible()
  console.log(`a head and three modules: ${actions} clicks, fields and keys`)
  expect(actions).toBeLessThanOrEqual(13)
})

test('a module that was left out of its turn: the check names it, and taking the step back walks it again', async ({
  page,
}) => {
  const id = await headAndModules()
  await front({ act: 'press', id: 'search', seconds: 0 })
  for (const module of ['MM-511', 'MM-513']) await front({ act: 'press', id: module, seconds: 2.2 })
  await page.goto(`${app.url}/jobs/${id}/first-contact`)
  await page
    .getByRole('list', { name: 'Stops of the walk' })
    .getByRole('button', { name: /A row of 3/ })
    .click()
  const list = page.getByRole('region', { name: 'Steps of this stop' })
  await list
    .getByRole('listitem')
    .filter({ hasText: 'Every module answers' })
    .getByRole('button', { name: 'Take back' })
    .click()
  await says(page, 'Every module answers')
  await step(page)
    .getByRole('button', { name: /Check now/ })
    .click()
  await expect(step(page).getByRole('status')).toContainText('Silent: MM-513 (3).')
  await expect(step(page).getByRole('status')).toHaveAttribute('data-verdict', 'failed')
  await expect(page.getByText('Every stop is settled.')).toHaveCount(0)
})
