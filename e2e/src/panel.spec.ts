import { expect, test, type Page } from './test'
import { choose } from './app'
import { ownJobs } from './ownJob'

/** A panel as it comes: files of many hands, devices with two of everything, names that nearly agree. */
const jobs = ownJobs()
test.beforeEach(async ({ page }) => {
  await jobs.open(page, 'Heron Mill')
})

const row = (page: Page, tag: string) =>
  page.locator('tr[data-device]').filter({ has: page.locator('th', { hasText: new RegExp(`^${tag}$`) }) })
const cell = (page: Page, name: string) => page.getByRole('button', { name: new RegExp(`^${name}`) })
const write = async (page: Page, field: string, text: string) => {
  await cell(page, field).click()
  await page.getByRole('textbox', { name: field }).fill(text)
  await page.keyboard.press('Enter')
}

test('a CSV of another encoding, with semicolons, decimal commas and a row of commas, is read; what cannot be stays', async ({
  page,
}) => {
  const csv = [
    'Tag;Bezeichnung;IP;Unit;Startup',
    'ZÄ-1;Zähler Süd;10.20.40.111;1,0;20',
    'ZÄ-2,Zähler Nord,10.20.40.112,2,30',
    'ZÄ-3;Zähler Ost;10.20.40.300;3;2,5',
    'ZÄ-4',
  ].join('\r\n')
  await page.keyboard.press('p')
  await page
    .getByLabel('CSV or XLSX file')
    .setInputFiles({ name: 'panel.csv', mimeType: 'text/csv', buffer: Buffer.from(csv, 'latin1') })
  await expect(page.getByText(/it was read as Windows-1252/)).toBeVisible()
  await expect(page.getByText('Row 3 is separated by commas, the first by semicolons. It was read so.')).toBeVisible()
  await choose(page.getByRole('combobox', { name: 'What column Bezeichnung holds' }), 'What it is')
  await expect(page.getByText('2,5 is not a whole number.')).toBeVisible()
  await expect(page.getByText(/300/).first()).toBeVisible()
  await page.getByRole('button', { name: 'Add 3 devices' }).click()
  const area = page.getByRole('textbox', { name: 'Cells from a spreadsheet' })
  // What was added is gone from the box; what cannot be added stays.
  await expect(area).not.toHaveValue(/ZÄ-1\t/)
  await expect(area).toHaveValue(/ZÄ-3\tZähler Ost\t10\.20\.40\.300\t3\t2,5/)
  await page.getByRole('button', { name: 'Use 3', exact: true }).click()
  await area.fill((await area.inputValue()).replace('.300', '.113'))
  await page.getByRole('button', { name: 'Add 1 device', exact: true }).click()
  await expect(page.getByRole('radio', { name: '20 all' })).toBeVisible()
  await expect(row(page, 'ZÄ-2')).toContainText('Zähler Nord')
  // The column that was matched by hand is known the next time.
  await page.keyboard.press('p')
  await area.fill('Tag;Bezeichnung;IP\nZÄ-9;x;10.20.40.119')
  await expect(page.getByRole('combobox', { name: 'What column Bezeichnung holds' })).toHaveText('What it is')
})

test('a file that is no workbook is told, and what stands in the box stays', async ({ page }) => {
  await page.keyboard.press('p')
  const area = page.getByRole('textbox', { name: 'Cells from a spreadsheet' })
  await area.fill('Tag\tIP\nX\t10.20.40.100')
  await page
    .getByLabel('CSV or XLSX file')
    .setInputFiles({ name: 'list.xlsx', mimeType: 'application/zip', buffer: Buffer.from('not a workbook') })
  await expect(page.getByText('This is not an XLSX workbook.')).toBeVisible()
  await expect(area).toHaveValue('Tag\tIP\nX\t10.20.40.100')
})

test('a two-axis drive with two ports: each node and address counts, and a clash within the line is found', async ({
  page,
}) => {
  await page.getByRole('button', { name: 'More of the line-up' }).click()
  await page.getByRole('menuitem', { name: 'Add a line or bus' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Motion')
  await choose(page.getByLabel('Electrical kind'), /[Mm]otion/)
  await page.getByRole('button', { name: 'Save' }).click()
  await row(page, 'PD-101').locator('td').last().click()
  await page.getByRole('button', { name: 'Put on a line' }).click()
  await choose(page.getByLabel('Line of node of PD-101'), 'Motion')
  await page.getByRole('button', { name: 'Another node' }).click()
  await write(page, 'Number of axis 2 of PD-101', '65')
  await expect(page.getByText('Node 65 is outside 1 to 64.')).toBeVisible()
  await page.keyboard.press('Escape')
  await write(page, 'Number of axis 2 of PD-101', '1')
  await write(page, 'Number of node of PD-101', '1')
  await expect(page.getByRole('heading', { name: 'Two devices, one node' }).first()).toBeVisible()
  await page
    .getByRole('radiogroup', { name: 'Line', exact: true })
    .getByRole('radio', { name: /Motion$/ })
    .click()
  await expect(page.getByRole('button', { name: /^1: PD-101 and PD-101 axis 2, wanted twice/ })).toBeVisible()

  await page.getByRole('button', { name: 'Add another port' }).click()
  await write(page, 'Address at Ethernet 2 of PD-101', '10.20.40.50')
  await expect(row(page, 'EM-501')).toContainText('Two devices, one address')
  await page.getByRole('button', { name: 'Remove Ethernet 2 of PD-101' }).click()
  await expect(row(page, 'EM-501')).not.toContainText('Two devices, one address')
})

test('a name that must stand in two places is compared letter for letter, look-alikes told', async ({ page }) => {
  await row(page, 'SUP-801').locator('td').last().click()
  await write(page, 'Name of SUP-801 there: In the server', 'sup-8O1')
  await expect(page.getByRole('heading', { name: 'The name differs' })).toBeVisible()
  await expect(
    page.getByText('In the server: character 6 has the letter O, the plan has the digit 0. They look alike.'),
  ).toBeVisible()
  await write(page, 'Host name of SUP-801', 'sup_801')
  await expect(page.getByText('"_" cannot stand in a host name.')).toBeVisible()
  await page.getByRole('button', { name: 'Use sup-801' }).click()
  await write(page, 'Name of SUP-801 there: In the server', 'sup-801')
  await expect(page.getByRole('heading', { name: 'The name differs' })).toHaveCount(0)
})

test('a keypad that sets only the last octet makes a plan impossible; another way of setting ends it', async ({
  page,
}) => {
  await row(page, 'PD-102').locator('td').last().click()
  await choose(page.getByLabel('Way of setting of PD-102'), /last octet only/)
  await expect(page.getByRole('heading', { name: 'It cannot be set to that' })).toBeVisible()
  await expect(page.getByText(/the first three octets stay as they are at 192\.168\.1\.20/)).toBeVisible()
  await page.getByRole('button', { name: 'Set it by: its own web page' }).click()
  await expect(page.getByRole('heading', { name: 'It cannot be set to that' })).toHaveCount(0)
})

test('when every address is taken nothing is proposed, and it is said', async ({ page }) => {
  await page.getByRole('button', { name: 'Add a network' }).click()
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill('link')
  await page.getByRole('textbox', { name: 'Network' }).fill('10.9.9.0/30')
  await page.getByLabel('Gateway', { exact: true }).fill('10.9.9.1')
  await page.getByLabel('Reserved ranges').fill('10.9.9.2-10.9.9.2')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await row(page, 'RIO-111').locator('td').last().click()
  await write(page, 'Planned address of RIO-111', '')
  await choose(page.getByLabel('Network of RIO-111'), 'link')
  await expect(page.getByText('Every address of its network is taken.')).toBeVisible()
})

test('several rows by mouse: chosen with Shift, removed together, brought back together', async ({ page }) => {
  await row(page, 'FM-201').locator('td').last().click()
  await row(page, 'FM-203')
    .locator('td')
    .last()
    .click({ modifiers: ['Shift'] })
  await expect(page.getByText('3 rows', { exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Remove them' }).click()
  await expect(page.getByRole('radio', { name: '13 all' })).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('radio', { name: '16 all' })).toBeVisible()
  // With all they had: their handshakes are there again.
  await expect(row(page, 'FM-202')).toContainText('Survives next')
})
