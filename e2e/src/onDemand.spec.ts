import { expect, test, type Page } from './test'
import { choose, startApp, talk, type RunningApp, listTakesKeys } from './app'
import { laptopAt } from './jobParts'

let app: RunningApp
test.beforeAll(async () => {
  app = await startApp()
})
test.afterAll(() => app.end())

const { get, send } = talk(() => app)
const rehearsal = async () => {
  const jobs = await get<readonly { readonly id: string; readonly name: string }[]>('/jobs')
  return jobs.find(({ name }) => name.includes('rehearsal'))?.id ?? ''
}
const front = (act: object) => send('POST', '/bench-fronts/RCU-301', act)
const step = (page: Page) => page.getByRole('region', { name: 'The step in hand' })
const says = (page: Page, text: string | RegExp) => expect(step(page)).toContainText(text, { timeout: 15_000 })
/** The address that the step in hand gives the laptop, set at the bench. */
async function laptopAsAsked(page: Page): Promise<void> {
  const text = await step(page).innerText()
  await laptopAt({ send }, /wired adapter: ([\d.]+)\//.exec(text)?.[1] ?? '')
}

test('a reset on demand at a live unit: button first, restored, brought back to its address', async ({ page }) => {
  test.slow()
  const id = await rehearsal()
  await laptopAt({ send }, '10.20.40.5')
  let actions = 0
  const press = async (name: RegExp) => {
    actions += 1
    await step(page).getByRole('button', { name }).click()
  }
  const note = async (label: RegExp, text: string) => {
    actions += 1
    await step(page).getByLabel(label).fill(text)
    await press(/^Record/)
  }

  // From the line-up: the device, then the run. Nothing of the walk is begun.
  await page.goto(`${app.url}/jobs/${id}/line-up`)
  await page
    .getByRole('row', { name: /RCU-301/ })
    .first()
    .click()
  await page.getByRole('link', { name: /Begin a run/ }).click()
  const dialog = page.getByRole('dialog', { name: 'Begin a run' })
  await expect(dialog.getByLabel('Device')).toContainText('RCU-301')
  await choose(dialog.getByLabel('Run'), /Factory reset and restore/)
  await expect(dialog).toContainText('Everything in RCU-301 is lost')
  await dialog.getByRole('button', { name: /^Begin factory reset/ }).click()
  actions += 4

  await expect(page.getByRole('heading', { name: 'Factory reset and restore: RCU-301' })).toBeVisible()
  await says(page, 'stops what it runs')
  await press(/I have read both/)
  // Without the place of a copy nothing goes on, and what is typed stays.
  await says(page, 'Where the copies of what is in RCU-301 are')
  await press(/^Record/)
  await expect(page.getByRole('alert')).toContainText('Nothing is written down')
  await note(/Backup/, 'rcu-301.zip, server room, 4')
  await says(page, 'Q9 also feeds: nothing else of this job')
  await press(/I have read it/)
  await says(page, 'Mode switch of RCU-301')
  await front({ act: 'turn', id: 'mode', value: 'service' })
  await press(/^Done/)
  await front({ act: 'power', on: false })
  await press(/^Done/)
  await says(page, 'keep it pressed, before power comes')
  await front({ act: 'turn', id: 'button', value: 'pressed' })
  await press(/^Done/)
  await says(page, 'put Q9 on')
  await front({ act: 'power', on: true })
  await press(/^Done/)
  await says(page, 'Two lamps are steady')
  await expect(step(page).getByText('Both').first()).toBeVisible()
  await front({ act: 'turn', id: 'button', value: 'let go' })
  await press(/^I see it/)
  await says(page, 'come in turn')
  await press(/^I see it/)
  await says(page, 'One lamp more for each short press')
  for (let n = 0; n < 3; n += 1) await front({ act: 'press', id: 'reset', seconds: 0.2 })
  await press(/^Done/)
  await front({ act: 'press', id: 'reset', seconds: 3.1 })
  await says(page, 'All lamps flash')
  await press(/^I see it/)
  await expect(page.getByRole('region', { name: 'RCU-301' })).toContainText('In force192.168.61.3')
  await says(page, 'Mode switch of RCU-301 back')
  await front({ act: 'turn', id: 'mode', value: 'run' })
  await press(/^Done/)
  // The laptop goes there before the wait begins, to an address that nobody has.
  await says(page, /wired adapter: 192\.168\.61\.\d+\/24/)
  await laptopAsAsked(page)
  // Where the laptop is, is seen by itself; then the wait begins, and who answers is looked at.
  await says(page, 'It has started')
  await press(/^I see it/)
  // Both stand on one card, and are written down in one go.
  await step(page)
    .getByLabel(/identified/)
    .fill('RC-4, S4 3301')
  await note(/Firmware/, '2.3')
  actions += 1
  await says(page, 'The next steps write to RCU-301')
  await press(/I have read it/)
  await says(page, 'Does the copy bring its address with it?')
  actions += 1
  await step(page).getByRole('radio', { name: /No/ }).click()
  await press(/^That it is/)
  await says(page, 'Restore the copy')
  await front({ act: 'press', id: 'restore', seconds: 0 })
  await press(/^Done/)
  await says(page, 'clock and time zone')
  await press(/^Done/)
  await says(page, 'Final address 10.20.40.70')
  const fronts = await get<{ readonly fronts: readonly { readonly tag: string; readonly page: string | null }[] }>(
    '/bench-fronts',
  )
  const its = fronts.fronts.find(({ tag }) => tag === 'RCU-301')?.page ?? ''
  const written = await fetch(its, {
    method: 'POST',
    body: new URLSearchParams({ address: '10.20.40.70', mask: '255.255.255.0', gateway: '10.20.40.1' }).toString(),
  })
  expect(await written.text()).toContain('Written')
  await press(/^Done/)
  await says(page, /wired adapter: 10\.20\.40\.\d+\/24/)
  await laptopAsAsked(page)
  await expect(page.getByRole('region', { name: 'RCU-301' })).toContainText('Verified10.20.40.70', { timeout: 25_000 })
  await says(page, 'it runs again')
  await press(/^I see it/)
  console.log(`a reset on demand, from the line-up to verified: ${actions} clicks, fields and keys`)
  // Done: the rest of the walk is as it was, and is begun when somebody wants to.
  await expect(page.getByRole('button', { name: 'Begin the walk' })).toBeVisible()
  await page.goto(`${app.url}/jobs/${id}/first-contact?view=kept`)
  await expect(page.getByText(/Mode switch of RCU-301 moved/)).toHaveCount(0)
})

test('by keyboard: a restart is begun for a live unit, a second one is not, and it is given up', async ({ page }) => {
  const id = await rehearsal()
  await laptopAt({ send }, '10.20.40.5')
  await page.goto(`${app.url}/jobs/${id}/first-contact`)
  const begin = page.getByRole('button', { name: 'Begin a run' })
  await begin.focus()
  await page.keyboard.press('Enter')
  const dialog = page.getByRole('dialog', { name: 'Begin a run' })
  await expect(dialog.getByLabel('Device')).toBeFocused()
  await page.keyboard.press('Enter')
  await listTakesKeys(page)
  await page.keyboard.type('RCU')
  await expect(page.getByRole('option', { name: /RCU-301/ })).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(dialog.getByLabel('Device')).toContainText('RCU-301')
  await expect(dialog.getByLabel('Device')).toBeFocused()
  await page.keyboard.press('Tab')
  await page.keyboard.press('Enter')
  await listTakesKeys(page)
  await page.keyboard.type('Restart', { delay: 60 })
  await expect(page.getByRole('option', { name: 'Restart' })).toBeFocused()
  await page.keyboard.press('Enter')
  await dialog.getByRole('button', { name: 'Begin restart for RCU-301' }).press('Enter')
  await expect(page.getByRole('heading', { name: 'Restart: RCU-301' })).toBeVisible()
  await page.keyboard.press('y')
  // The laptop is there, and who answers: both are looked at by themselves.
  await says(page, 'Restart RCU-301')
  // A second one for the same device is not begun meanwhile.
  await page.getByRole('button', { name: 'Begin a run' }).click()
  await expect(page.getByRole('dialog')).toContainText('Restart is in hand for RCU-301')
  await expect(page.getByRole('button', { name: /^Begin restart/ })).toBeDisabled()
  await page.keyboard.press('Escape')
  // Given up only after it was asked, and the walk is as it was.
  await page.getByRole('button', { name: 'Give this run up' }).click()
  await page.getByRole('button', { name: 'Leave it' }).click()
  await says(page, 'Restart RCU-301')
  await page.getByRole('button', { name: 'Give this run up' }).click()
  await page.getByRole('button', { name: 'Give it up' }).click()
  await expect(page.getByRole('button', { name: 'Begin the walk' })).toBeVisible()
  await expect(page.getByRole('heading', { name: 'Restart: RCU-301' })).toHaveCount(0)
})

/** Begins a run for the unit in service, from the walk. */
async function beginFor(page: Page, run: RegExp): Promise<void> {
  await page.goto(`${app.url}/jobs/${await rehearsal()}/first-contact`)
  await page.getByRole('button', { name: 'Begin a run' }).click()
  const dialog = page.getByRole('dialog', { name: 'Begin a run' })
  await choose(dialog.getByLabel('Device'), /RCU-301/)
  await choose(dialog.getByLabel('Run'), run)
  await dialog.getByRole('button', { name: /^Begin / }).click()
}
const press = (page: Page, name: RegExp) => step(page).getByRole('button', { name }).click()
const note = async (page: Page, label: RegExp, text: string) => {
  await step(page).getByLabel(label).fill(text)
  await press(page, /^Record/)
}

/** The unit restarts: silent until that was seen, then back. */
async function goesAndComes(page: Page): Promise<void> {
  await front({ act: 'power', on: false })
  await says(page, 'It is gone, and looked for')
  await front({ act: 'power', on: true })
}

test('a copy is restored at a live unit: which one is written down first, and it is found again', async ({ page }) => {
  await front({ act: 'power', on: true })
  await laptopAt({ send }, '10.20.40.5')
  await beginFor(page, /Restore from a copy/)
  await says(page, 'What is in RCU-301 now is overwritten')
  await press(page, /I have read both/)
  await note(page, /Backup/, 'rcu-301.zip, server room, 5')
  // Where the laptop is and whether it answers are seen by themselves.
  await says(page, 'Restore that copy')
  await press(page, /^Done/)
  await goesAndComes(page)
  await says(page, 'it runs again')
  await expect(page.getByRole('region', { name: 'RCU-301' })).toContainText('Verified10.20.40.70')
  await press(page, /^I see it/)
  await expect(page.getByRole('button', { name: 'Begin the walk' })).toBeVisible()
})

test('firmware is loaded at a live unit: the copies first; another version than the one asked for is told', async ({
  page,
}) => {
  await front({ act: 'power', on: true })
  await laptopAt({ send }, '10.20.40.5')
  const id = await rehearsal()
  const job = await get<{
    readonly devices: readonly { readonly id: string; readonly tag: string; readonly version: number }[]
  }>(`/jobs/${id}`)
  const unit = job.devices.find(({ tag }) => tag === 'RCU-301')
  const fields = { firmwareNeeded: '2.4', firmwareRelation: 'at-least' }
  await send('POST', `/jobs/${id}/changes`, {
    changes: [{ op: 'set', table: 'device', id: unit?.id, version: unit?.version, fields }],
  })
  await beginFor(page, /Firmware update/)
  await says(page, 'A load that breaks off can leave RCU-301 dead')
  await press(page, /I have read both/)
  await note(page, /Backup/, 'rcu-301.zip, server room, 6')
  await says(page, 'Load the firmware that is asked for: 2.4')
  await press(page, /^Done/)
  // It takes longer to go than its restart was to last: that it went is seen all the same, and told as soon as it is.
  await step(page)
    .getByText(/ since the time was over/)
    .waitFor()
  await says(page, 'It still answers')
  await goesAndComes(page)
  await says(page, 'as its page or tool says it now')
  await note(page, /Firmware/, '2.3')
  await says(page, 'It is the one asked for')
  await press(page, /Check now/)
  const answer = step(page).getByRole('status')
  await expect(answer).toHaveAttribute('data-verdict', 'failed')
  await expect(answer).toContainText('RCU-301 has 2.3, asked for: at least 2.4.')
})
