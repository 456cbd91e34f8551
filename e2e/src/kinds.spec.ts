import { expect, test } from './test'
import { canFile, gsdFile } from '../../packages/core/src/description/fixtures'
import { choose } from './app'
import { ownJobs } from './ownJob'

const jobs = ownJobs()

test('a device’s settings as a kind, put on three meters: what differs is shown, and what is set then', async ({
  page,
}) => {
  await jobs.open(page, 'Heron Mill hatchery', 'terms')
  await page.getByRole('link', { name: 'Profiles' }).click()
  await choose(page.getByRole('region', { name: 'Save as a kind' }).getByLabel('Device'), 'FM-201')
  await page.getByLabel('Name of the kind').fill('x')
  await expect(page.getByText('A kind has a name of at least 2 signs.')).toBeVisible()
  await page.getByLabel('Name of the kind').fill('Flow meter of this line')
  await page.getByRole('button', { name: 'Save as a kind of this job' }).click()
  const others = page.getByRole('region', { name: 'Put on others' })
  await expect(others.getByLabel('Kind')).toHaveText('Flow meter of this line')
  for (const tag of ['FM-201', 'FM-202', 'FM-203']) await others.getByRole('checkbox', { name: tag }).click()
  // What is proven is left alone unless it is asked for.
  const proven = others.getByRole('checkbox', { name: /that proven rungs rest on too/ })
  if (await proven.isVisible()) await proven.click()
  await others.getByRole('button', { name: 'Put on 3 devices' }).click()
  for (const tag of ['FM-201', 'FM-202', 'FM-203'])
    await expect(page.locator(`[data-profile="${tag}"]`)).toContainText('nothing differs')
  await page.keyboard.press('Escape')
})

test('a description file: what cannot be taken is told with its line, a good one becomes a kind', async ({ page }) => {
  await jobs.open(page, 'Heron Mill hatchery', 'line-up')
  await page.getByRole('button', { name: 'More of the line-up' }).click()
  await page.getByRole('menuitem', { name: 'Kinds of devices' }).click()
  const dialog = page.getByRole('dialog')
  const give = (name: string, content: string | Buffer) =>
    dialog
      .getByLabel('Description file', { exact: true })
      .setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(content) })
  await give('huge.gsd', Buffer.alloc(20 * 1024 * 1024, 'a'))
  await expect(dialog.getByText('The file has 20480 kB.')).toBeVisible()
  await give('picture.eds', '[DeviceInfo]\nVendorName=\u0001\u0002')
  await expect(dialog.getByText(/Line 2: a sign that no text has/)).toBeVisible()
  await give('broken.eds', canFile.replace('FileVersion=1', 'FileVersion 1'))
  await expect(dialog.getByText(/Line 3: this is neither a section nor a value/)).toBeVisible()
  await give('head.gsd', gsdFile)
  await expect(dialog.getByText('9.6 kbit/s, 187.5 kbit/s, 1.5 Mbit/s')).toBeVisible()
  await expect(dialog.getByRole('list', { name: 'Modules' })).toContainText('Counter: 6 bytes in, 4 bytes out')
  await dialog.getByLabel('Name of the kind').fill('Head with modules')
  await dialog.getByRole('button', { name: 'Make it a kind of this job' }).click()
  await expect(dialog.getByText('Made: Head with modules.', { exact: false })).toBeVisible()
  await expect(dialog.getByLabel('Kind', { exact: true })).toHaveText('Head with modules (of this job)')
})
