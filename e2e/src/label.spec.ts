import { expect, test, type Page } from './test'
import bwipjs from 'bwip-js/node'
import { startApp, talk, type RunningApp } from './app'

let app: RunningApp
test.beforeAll(async () => {
  app = await startApp()
})
test.afterAll(() => app.end())

const { get } = talk(() => app)
const rehearsal = async () => {
  const jobs = await get<readonly { readonly id: string; readonly name: string }[]>('/jobs')
  return jobs.find(({ name }) => name.includes('rehearsal'))?.id ?? ''
}
const step = (page: Page) => page.getByRole('region', { name: 'The step in hand' })
const says = (page: Page, text: string | RegExp) => expect(step(page)).toContainText(text)
const drawn = (bcid: string, text: string) =>
  bwipjs.toBuffer({ bcid, text, scale: 4, padding: 12, backgroundcolor: 'FFFFFF' })

/** To where the label of a drive is asked for, before its breaker goes on. */
async function toTheLabel(page: Page, id: string): Promise<void> {
  await page.goto(`${app.url}/jobs/${id}/first-contact`)
  const begin = page.getByRole('button', { name: 'Begin the walk' })
  await expect(begin.or(page.locator('[data-walk]'))).toBeVisible()
  if (await begin.isVisible()) await begin.click()
  await expect(page.locator('[data-walk]')).toBeVisible()
  await page
    .getByRole('list', { name: 'Stops of the walk' })
    .getByRole('button', { name: /Put Q11 on/ })
    .first()
    .click()
  const read = step(page).getByRole('button', { name: /I have read both/ })
  const label = step(page).getByLabel(/Picture of the label/)
  await expect(read.or(label).first()).toBeAttached()
  if (await read.isVisible()) await read.click()
  const sheet = page.getByRole('button', { name: /All as drawn/ })
  await expect(sheet.or(label).first()).toBeAttached()
  if (await sheet.isVisible()) await sheet.click()
  await says(page, 'Write down the order code on the label of PD-101')
}

test('a label is photographed: what each code is taken for, one tap, and every step that asks for it is filled', async ({
  page,
}) => {
  const id = await rehearsal()
  await toTheLabel(page, id)
  const picture = step(page).getByLabel('Picture of the label of PD-101')
  // No picture, and a picture without a code: said, and what was typed stays.
  await page.getByLabel('Serial number').fill('typed by hand')
  await picture.setInputFiles({ name: 'notes.png', mimeType: 'image/png', buffer: Buffer.from('no picture') })
  await expect(step(page).getByRole('alert')).toContainText('notes.png cannot be read as a picture.')
  await expect(page.getByLabel('Serial number')).toHaveValue('typed by hand')
  await picture.setInputFiles({
    name: 'label.png',
    mimeType: 'image/png',
    buffer: await drawn('datamatrix', 'P/N: VD-110-4-E; S/N: S4 7C11; MAC: 02:5E:0B:10:7C:11; MAC: 02:5E:0B:10:7C:12'),
  })
  const label = step(page).getByRole('group', { name: 'Label of PD-101' })
  await expect(label.getByRole('img', { name: 'Label of PD-101 as photographed' })).toBeVisible({ timeout: 30_000 })
  await expect(label.getByLabel('VD-110-4-E is')).toContainText('order code')
  await expect(label.getByLabel('S4 7C11 is')).toContainText('serial number')
  // Two hardware addresses: nobody takes one by itself.
  await expect(label.getByRole('alert')).toContainText('Two are taken for the hardware address')
  await expect(label.getByRole('button', { name: /^Take/ })).toBeDisabled()
  await label.getByLabel('02:5E:0B:10:7C:12 is').click()
  await page.getByRole('option', { name: 'not taken' }).click()
  await label.getByRole('button', { name: 'Take these 3' }).click()
  await says(page, 'Put Q11 on: PD-101')
  const { devices } = await get<{
    readonly devices: readonly {
      readonly tag: string
      readonly serialNumber: string
      readonly orderCodeFound: string
    }[]
  }>(`/jobs/${id}`)
  expect(devices.find(({ tag }) => tag === 'PD-101')).toMatchObject({
    serialNumber: 'S4 7C11',
    orderCodeFound: 'VD-110-4-E',
  })
  const { facts } = await get<{ readonly facts: readonly { readonly setting: string; readonly text: string }[] }>(
    `/jobs/${id}/walk`,
  )
  expect(facts.find(({ setting }) => setting === 'mac')?.text).toBe('02:5E:0B:10:7C:11')
  // The picture is kept as evidence.
  await page.goto(`${app.url}/jobs/${id}/first-contact?view=kept`)
  await page.getByRole('button', { name: 'Label of PD-101: 4 read' }).click()
  await expect(page.getByRole('dialog').getByRole('img', { name: /Label of PD-101/ })).toBeVisible()
  await expect(page.getByRole('dialog')).toContainText('"takenFor": "hardware address"')
})

test('a picture without a code that is read says what helps', async ({ page }) => {
  const id = await rehearsal()
  await page.goto(`${app.url}/jobs/${id}/first-contact`)
  await expect(page.locator('[data-walk]').or(page.getByRole('button', { name: 'Begin the walk' }))).toBeVisible()
  const begin = page.getByRole('button', { name: 'Begin the walk' })
  if (await begin.isVisible()) await begin.click()
  await expect(page.locator('[data-walk]')).toBeVisible()
  await page
    .getByRole('list', { name: 'Stops of the walk' })
    .getByRole('button', { name: /Put Q12 on/ })
    .first()
    .click()
  await step(page)
    .getByRole('button', { name: /I have read both/ })
    .click()
  await page.getByRole('button', { name: /All as drawn/ }).click()
  await step(page)
    .getByLabel('Picture of the label of PD-102')
    .setInputFiles({ name: 'blank.png', mimeType: 'image/png', buffer: await drawn('ean13', '2112345678900') })
  await expect(step(page).getByText(/No code was read\. Nearer, straight from the front/)).toBeVisible({
    timeout: 30_000,
  })
})
