import { expect, test, type Page } from './test'
import { choose, stage } from './app'
import { ownJobs } from './ownJob'

const jobs = ownJobs()
test.beforeEach(async ({ page }) => {
  await jobs.open(page, 'Heron Mill hatchery', 'terms')
  await expect(page.getByText('9 of 10', { exact: true })).toBeVisible()
})

const edit = async (page: Page, term: string, text: string) => {
  await page.getByRole('button', { name: new RegExp(`^${term}`) }).click()
  const field = page.getByRole('dialog').getByRole('textbox').first()
  await field.fill(text)
  await field.press('Enter')
  await expect(page.getByRole('dialog')).toHaveCount(0)
}

test('one register apart: the reason in words, and the fix in this end’s own way of counting', async ({ page }) => {
  await edit(page, 'First register of PLC-101', '1')
  await expect(
    page.getByText(/begins at address 1, EM-501 keeps the value at 0: 1 apart\. One counts from 0, the other from 1\./),
  ).toBeVisible()
  await page.getByRole('button', { name: 'Read from address 0 in PLC-101' }).click()
  await expect(page.getByRole('button', { name: /^First register of PLC-101: 0\. Edit/ })).toBeVisible()
  await expect(page.getByText('Same place: address 0')).toBeVisible()
})

test('a register that can be read in several ways: each reading is told in words', async ({ page }) => {
  await page.getByRole('button', { name: /^First register of EM-501/ }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByRole('textbox').first().fill('40108')
  for (const reading of [
    '40108 is holding register number 108, address 107 in the frame',
    '40108 counted from 0 is address 40108 in the frame',
  ])
    await expect(dialog.getByRole('radio', { name: reading })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('button', { name: /^First register of EM-501: 30001/ })).toBeFocused()
})

test('an address that the line-up holds changes there too', async ({ page }) => {
  await page.getByRole('button', { name: /^Address of EM-501/ }).click()
  await expect(page.getByText('Held by the line-up: it changes there too.')).toBeVisible()
  const field = page.getByRole('dialog').getByRole('textbox').first()
  await field.fill('010.020.040.055')
  await field.press('Enter')
  await expect(page.getByText(/leading zeros/)).toBeVisible()
  await page.getByRole('button', { name: 'Use 10.20.40.55' }).click()
  await page.getByRole('button', { name: 'Set', exact: true }).click()
  await expect(page.getByText(/PLC-101 asks 10\.20\.40\.50; EM-501 is at 10\.20\.40\.55/)).toBeVisible()
  await stage(page, 'Line-up').click()
  await expect(page.getByRole('button', { name: /^Planned address of EM-501: 10\.20\.40\.55/ })).toBeVisible()
})

test('a handshake is removed only after it was said what goes with it', async ({ page }) => {
  await page.getByRole('button', { name: 'Remove this handshake' }).click()
  await expect(
    page.getByText(/Its terms go out of sight with it\. Both devices stay, with what was seen of them/),
  ).toBeVisible()
  await page.getByRole('button', { name: 'Remove it' }).click()
  await expect(page.getByText('Handshake 1 of 7')).toBeVisible()
})

test('J, K and O go from handshake to handshake', async ({ page }) => {
  const picker = page.getByRole('combobox', { name: /^Handshake/ })
  await page.keyboard.press('j')
  await expect(page.getByText('Handshake 2 of 8')).toBeVisible()
  await page.keyboard.press('k')
  await expect(page.getByText('Handshake 1 of 8')).toBeVisible()
  await page.keyboard.press('o')
  await expect(picker).toHaveText(/./)
  await expect(page.getByText('Handshake 5 of 8')).toBeVisible()
})

test('the choice of a word order by keyboard closes the clasp', async ({ page }) => {
  await page.getByRole('button', { name: /^Word order of PLC-101/ }).focus()
  await page.keyboard.press('Alt+Enter')
  await choose(page.getByRole('dialog').getByRole('combobox'), /^ABCD/)
  await page.getByRole('button', { name: 'Set', exact: true }).press('Enter')
  await expect(page.getByText('10 of 10', { exact: true })).toBeVisible()
  await expect(page.locator('[data-term=word-order]')).toHaveAttribute('data-state', 'equal')
})

test('a unit with another parity: found in the clasp, mistyped, set right, and agreed; the line in numbers beside it', async ({
  page,
}) => {
  await choose(page.getByRole('combobox', { name: /^Handshake/ }), /FM-203/)
  await expect(page.getByText('10 of 11', { exact: true })).toBeVisible()
  await expect(page.getByText('No parity here, even parity there. The unit stays silent.')).toBeVisible()
  await edit(page, 'Line settings of FM-203', '9600 7E1')
  await expect(page.getByText(/8 data bits here, 7 there/)).toBeVisible()
  await page.getByRole('button', { name: /^Line settings of FM-203/ }).click()
  const field = page.getByRole('dialog').getByRole('textbox').first()
  await field.fill('9601 8N1')
  await field.press('Enter')
  await expect(page.getByRole('alert').filter({ hasText: '9601 bit/s is nearly 9600' })).toBeVisible()
  await expect(field).toHaveValue('9601 8N1')
  await page.getByRole('button', { name: 'Use 9600 8N1' }).click()
  await page.getByRole('button', { name: 'Set', exact: true }).click()
  await expect(page.getByText('11 of 11', { exact: true })).toBeVisible()
  const line = page.getByRole('region', { name: 'On the line' })
  await expect(line).toContainText('105 ms while all answer; 2.09 s while 1 is silent')
  await expect(line.getByRole('img', { name: /Time of a round against the bit rate/ })).toBeVisible()
  await page.getByRole('button', { name: 'They are in force at both ends' }).click()
  await expect(page.getByText(/^Agreed: All 11 terms/)).toBeVisible()
})

test('set for the whole line: the line-up has it, and the other units are at odds then', async ({ page }) => {
  const picker = page.getByRole('combobox', { name: /^Handshake/ })
  await choose(picker, /FM-203/)
  await page.getByRole('button', { name: 'Set the line to 9600 8E1' }).click()
  await expect(page.getByText('11 of 11', { exact: true })).toBeVisible()
  await choose(picker, /FM-202/)
  await expect(page.getByText('Even parity here, no parity there. The unit stays silent.')).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(page.getByText('11 of 11', { exact: true })).toBeVisible()
})

test('all handshakes side by side: those at odds alone, and by keyboard to one of them', async ({ page }) => {
  await page.getByRole('link', { name: 'Compare all' }).click()
  const table = page.getByRole('table', { name: 'Handshakes by terms' })
  await expect(page.getByText('4 of 8 have a term at odds, or another value than most of their kind.')).toBeVisible()
  await expect(table.getByRole('row')).toHaveCount(9)
  await page.getByLabel('Only these').check()
  await expect(table.getByRole('row')).toHaveCount(5)
  await expect(table.getByRole('row', { name: /FM-203/ })).toContainText('9600 8N19600 8E1')
  await table.getByRole('link', { name: 'FM-203' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByText('10 of 11', { exact: true })).toBeVisible()
})

test('many at once: what cannot be is told, what would change is shown, proven ones only when asked for, and undone', async ({
  page,
}) => {
  await page.getByRole('link', { name: 'Compare all' }).click()
  const form = page.getByRole('form', { name: 'Change many' })
  await choose(form.getByRole('combobox', { name: /^Change in all/ }), 'Word order')
  await form.getByLabel('To', { exact: true }).fill('ADBC')
  await expect(form.getByRole('alert')).toContainText('ADBC')
  await form.getByLabel('To', { exact: true }).fill('CDAB')
  await expect(form.getByRole('status')).toContainText('7 would change, 1 has it already.')
  await expect(form.getByRole('status')).toContainText(
    'PLC-101 to PD-101: ABCD → CDAB, what is proven rests on it and falls back',
  )
  await expect(form.getByRole('button', { name: 'Change 5' })).toBeVisible()
  await form.getByLabel('Change the 2 too that what is proven rests on').check()
  await form.getByRole('button', { name: 'Change 7' }).click()
  await expect(form.getByLabel('To', { exact: true })).toHaveValue('')
  const table = page.getByRole('table', { name: 'Handshakes by terms' })
  await expect(table.getByRole('row', { name: /PD-101/ })).toContainText('CDABABCD')
  await page.getByRole('heading', { name: 'Terms of all handshakes' }).click()
  await page.keyboard.press('Control+z')
  await expect(table.getByRole('row', { name: /PD-101/ })).not.toContainText('CDAB')
})
