import { expect, test, type Page } from './test'
import { choose, startApp, talk, type RunningApp } from './app'
import { rehearsal } from './jobParts'

let app: RunningApp
test.beforeAll(async () => {
  app = await startApp()
})
test.afterAll(() => app.end())
const talking = talk(() => app)

const step = (page: Page) => page.getByRole('region', { name: 'The step in hand' })
const says = (page: Page, text: string | RegExp) => expect(step(page)).toContainText(text, { timeout: 15_000 })
const front = (act: object) => talking.send('POST', '/bench-fronts/SUP-801', act)

test('the swap of a supervisory controller, from the backups to the last field device', async ({ page }) => {
  test.slow()
  const { id } = await rehearsal(talking)
  await talking.send('PUT', '/bench-laptop', {
    addresses: [{ address: '10.20.41.5', prefix: 24 }],
    cable: 'switch',
    speed: 100,
  })
  await front({ act: 'power', on: true })
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
  const walk = `${app.url}/jobs/${id}/first-contact`
  /** A picture of what runs, with the list of field devices as the server shows it; in the tab that keeps them. */
  const picture = async (name: RegExp, list: string) => {
    await page.getByRole('tab', { name: 'Kept' }).click()
    await page.getByLabel(/Field devices, as another screen/).fill(list)
    await page.getByRole('button', { name }).click()
    await expect(page.getByLabel(/Field devices, as another screen/)).toHaveValue('')
    actions += 4
  }
  const back = () => page.getByRole('tab', { name: 'Walk' }).click()

  await page.goto(walk)
  await page.getByRole('button', { name: 'Begin a run' }).click()
  const dialog = page.getByRole('dialog', { name: 'Begin a run' })
  await choose(dialog.getByLabel('Device'), /SUP-801/)
  await choose(dialog.getByLabel('Run'), /Supervisory controller swap/)
  await dialog.getByRole('button', { name: /^Begin supervisory/ }).click()
  actions += 4
  await says(page, 'Lights, ventilation and alarms')
  await press(/I have read it/)

  // Without a before-picture it is not passed.
  await says(page, 'The before-picture is taken')
  await press(/Check now/)
  await expect(step(page).getByRole('status')).toHaveAttribute('data-verdict', 'not-conclusive')
  await picture(/Take the before-picture/, 'VAV 1-01\tok\nVAV 1-02\tfault\nVAV 1-03\tok')
  await back()
  await press(/Check now/)

  await says(page, 'Backup one')
  await note(/Backup/, 'old.dist, server room, 4.9')
  await says(page, 'Backup two')
  // The same file twice is one backup: the next step stays shut.
  await note(/Backup/, 'old.dist, server room, 4.9')
  await says(page, 'Two backups stand written down')
  await press(/Check now/)
  await expect(step(page).getByRole('status')).toContainText('1 of 2 backups written down. 1 of them the same again.')
  await page
    .getByRole('region', { name: 'Steps of this stop' })
    .locator('li', { hasText: 'Backup two' })
    .getByRole('button', { name: 'Take back' })
    .click()
  actions += 1
  await says(page, 'Backup two')
  await note(/Backup/, 'archive.dist, laptop, 4.9')
  await press(/Check now/)
  await says(page, 'Hardware address on the label')
  await note(/Hardware address/, '02-5e-0b-10-80-01')
  await press(/Check now/)
  await says(page, 'Unplug the field trunk')
  await press(/^Done/)
  await says(page, 'Old controller off')
  await front({ act: 'power', on: false })
  await press(/^Done/)
  await says(page, 'Put socket on')
  await front({ act: 'power', on: true })
  await press(/^Done/)
  await says(page, 'Lamps of SUP-801')
  await press(/^I see it/)
  // The wait begins by itself. Found again at its planned address by itself, told by its hardware address.
  await says(page, 'First log-in')
  await expect(step(page)).toContainText('"Password expired" at the first log-in is normal')
  for (const what of ['First log-in', 'New password', 'Account policy', 'Name sup-801']) {
    await says(page, what)
    await press(/^Done/)
  }
  // What is planned was read nowhere: the places stand there, what each shows is read and typed.
  await says(page, 'Read its name where it stands')
  await expect(step(page).getByLabel(/Name in each place/)).toHaveValue('the device itself = ; In the server = ')
  await press(/^Record/)
  await expect(step(page).getByRole('alert')).toContainText('names no place')
  await note(/Name in each place/, 'the device itself = sup-801; In the server = sup-8O1')
  await says(page, 'The name is the same in each place')
  await press(/Check now/)
  await expect(step(page).getByRole('status')).toContainText('They differ at character 6')
  await page
    .getByRole('region', { name: 'Steps of this stop' })
    .locator('li', { hasText: 'Read its name where it stands' })
    .getByRole('button', { name: 'Take back' })
    .click()
  actions += 1
  await says(page, 'Read its name where it stands')
  await note(/Name in each place/, 'the device itself = sup-801; In the server = sup-801')
  await press(/Check now/)
  await says(page, 'Restart it')
  await press(/^Done/)
  // The wait began by itself; silent first, then an answer where it was.
  await front({ act: 'press', id: 'restart', seconds: 3 })
  await says(page, 'Remove the entry of the old controller')
  await press(/^Done/)
  await says(page, 'The server’s address in each place')
  await press(/^Done/)
  // Time does not pair them: somebody sees it in the server before anything goes on.
  await says(page, 'The server shows SUP-801 on line')
  await press(/^I see it/)
  await says(page, 'Its version, as its page says')
  await note(/Firmware/, '4.11')
  await press(/Check now/)
  await says(page, 'The archive copy, upgraded')
  await note(/Backup/, 'archive-4.11.dist, laptop, 4.11')
  await says(page, 'Load the upgraded copy')
  await press(/^Done/)
  await says(page, 'its page shows the database that was loaded')
  await press(/^I see it/)
  await says(page, 'Plug the trunk back in')
  await press(/^Done/)

  // Counted against the before-picture: one is gone and one has a new fault, an old fault is no news.
  await says(page, 'Every field device is back')
  await picture(/Compare with now/, 'vav_1_01\tdown\nVAV 1-02\tfault')
  await expect(page.getByText('At fault before too: fault.')).toBeVisible()
  await back()
  await press(/Check now/)
  const answer = step(page).getByRole('status')
  await expect(answer).toHaveAttribute('data-verdict', 'failed')
  await expect(answer).toContainText('At fault now: VAV 1-01. Gone: VAV 1-03.')
  await picture(/Compare with now/, 'vav_1_01\tok\nVAV 1-02\tfault\nVAV 1-03\tok\nVAV 1-04\tok')
  await expect(page.getByText('Not in the list before.')).toBeVisible()
  await back()
  await press(/Check now/)
  await says(page, 'Does the plant run as before?')
  await step(page).getByRole('radio', { name: /Yes/ }).click()
  await press(/^That it is/)
  actions += 1
  console.log(`a swap, from the backups to the last field device: ${actions} clicks, fields and keys`)
  // Nothing of it is left behind.
  await expect(page.getByRole('button', { name: 'Begin the walk' })).toBeVisible()
  await page.getByRole('tab', { name: 'Kept' }).click()
  await expect(page.getByText(/Field trunk of SUP-801 unplugged/)).toHaveCount(0)
})
