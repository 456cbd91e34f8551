import { expect, test, type Page } from './test'
import { readFileSync } from 'node:fs'
import { choose, stage, startApp, talk, type RunningApp } from './app'

let app: RunningApp
test.beforeAll(async () => {
  app = await startApp()
})
test.afterAll(() => app.end())

const rows = (lines: readonly (readonly string[])[]) => lines.map((cells) => cells.join('\t')).join('\n')
const view = (page: Page, name: string) => page.getByRole('radio', { name, exact: true }).click()
const row = (page: Page, quantity: string) => page.locator(`[data-quantity="${quantity}"]`)

async function meter(page: Page) {
  await page.goto(app.url)
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await stage(page, 'Data path').click()
  await choose(page.getByRole('combobox', { name: /^Handshake/ }), /EM-501/)
}

/** The direction of a point, in its table. */
async function setDirection(page: Page, quantity: string, text: string) {
  await row(page, quantity)
    .getByRole('button', { name: new RegExp(`^Direction of ${quantity}`) })
    .click()
  const field = row(page, quantity).getByLabel(`Direction of ${quantity}`, { exact: true })
  await field.fill(text)
  await page.keyboard.press('Enter')
  await expect(row(page, quantity).locator('[data-col=access]')).toHaveText(text)
}

test.describe.configure({ mode: 'serial' })

test('a meter’s points out of its manual: the document is asked once how it counts, what cannot be read stays', async ({
  page,
}) => {
  await meter(page)
  await page.getByRole('button', { name: 'Paste points' }).click()
  const text = page.getByRole('textbox', { name: 'Rows of points' })
  await text.fill(
    rows([
      ['Name', 'Address', 'Type', 'Order', 'Unit', 'Min', 'Max'],
      ['Line frequency', '24', 'float', 'ABCD', 'Hz', '45', '55'],
      ['Power factor', '21', 'float', 'CDAB', '', '-1', '1'],
      ['Current L1', '30 007', 'REAL', 'high word first', 'A', '0', '25'],
      ['Power L1', '7x', 'flot', 'ABCD', 'kW', '9', '1'],
    ]),
  )
  const take = page.getByRole('button', { name: /^Take \d points?/ })
  await expect(take).toBeDisabled()
  await expect(page.getByText('2 of its registers leave it open.')).toBeVisible()
  await page.getByRole('radio', { name: 'From 1: its first register is number 1' }).click()
  await expect(page.getByText('24 counted from 1 is address 23 in the frame')).toBeVisible()
  await expect(page.getByText(/"flot" is no type that is known/)).toBeVisible()
  await expect(page.getByText(/The range goes from 9 to 1/)).toBeVisible()
  await take.click()
  // What could not be read is still there, to be put right.
  await expect(text).toHaveValue(/Power L1\t7x\tflot/)
  await expect(text).not.toHaveValue(/Current L1/)
  await page.keyboard.press('Escape')
  await expect(row(page, 'Current L1')).toContainText('6-7')
  await expect(row(page, 'Line frequency')).toContainText('23-24')
  await page.getByRole('radio', { name: 'Tool adds one' }).click()
  await expect(row(page, 'Line frequency')).toContainText('23-24 (24)')
  await page.getByRole('radio', { name: 'Tool counts from 0' }).click()
  // It lies across the frequency and the energy that are planned right beside it: both are said.
  await expect(page.getByLabel('Found at the points')).toContainText('Line frequency and Frequency share registers')
  for (const name of ['Line frequency', 'Frequency'])
    await expect(
      page.getByRole('button', { name: new RegExp(`^${name}: why is it wrong\\. .*share registers`) }),
    ).toBeVisible()
  // How the document counts is known from now on, on every laptop.
  await page.evaluate(() => localStorage.clear())
  await page.reload()
  await page.getByRole('button', { name: 'Paste points' }).click()
  await text.fill(
    rows([
      ['Name', 'Address', 'Type'],
      ['Reserve', '31', 'float'],
    ]),
  )
  await expect(page.getByRole('radio', { name: 'From 1: its first register is number 1' })).toBeChecked()
  await expect(page.getByText('31 counted from 1 is address 30 in the frame')).toBeVisible()
  await page.keyboard.press('Escape')
})

test('a shift by one and swapped words are found and mended through the screen', async ({ page }) => {
  await meter(page)
  await row(page, 'Line frequency')
    .getByRole('button', { name: /why is it wrong/ })
    .click()
  const verdict = page.locator('[data-verdict]')
  await expect(verdict).toHaveText('Not conclusive: no registers are given yet.')
  await page.getByRole('button', { name: 'Look at its registers' }).click()
  await expect(verdict).toHaveText('Not conclusive: it is not said what the value should be.')
  await page.getByRole('textbox', { name: 'Value' }).fill('50')
  await page.getByRole('textbox', { name: 'Give or take' }).fill('0,5')
  await expect(page.getByText(/has a comma/)).toBeVisible()
  await page.getByRole('textbox', { name: 'Give or take' }).fill('0.1')
  await expect(page.locator('[data-explanation="0"]')).toContainText(/^Read one register earlier: (49\.9|50\.0)/)
  await expect(verdict).toHaveText('One explanation is simpler than all others.')
  await page.locator('[data-explanation="0"]').getByRole('button', { name: 'Take it over' }).click()
  await page.getByRole('button', { name: 'Look at its registers' }).click()
  await expect(verdict).toHaveText('The plan reads it right at this look.')
  // The other one.
  await choose(page.getByRole('combobox', { name: 'Point' }), 'Power factor')
  await page.getByRole('textbox', { name: 'Value' }).fill('0.86')
  await page.getByRole('textbox', { name: 'Give or take' }).fill('0.02')
  await page.getByRole('button', { name: 'Look at its registers' }).click()
  await expect(page.locator('[data-explanation]').filter({ hasText: 'Swap the words: 0.8' })).toBeVisible()
  await page.getByRole('button', { name: 'Look again' }).click()
  await expect(page.getByRole('list', { name: 'Looks' }).getByRole('listitem')).toHaveCount(2)
  await expect(page.getByRole('img', { name: /^2 looks, from 0\.8/ })).toBeVisible()
  // What is known of other points is looked at along with it: voltage has a reference, frequency was just asked about.
  await page.getByRole('button', { name: 'Look at all 3' }).click()
  await expect(page.getByText(/solved together with 2 other points/)).toBeVisible()
  await page
    .locator('[data-explanation]')
    .filter({ hasText: 'Swap the words: 0.8' })
    .getByRole('button', { name: 'Take it over' })
    .click()
  await page.getByRole('button', { name: 'Look at its registers' }).click()
  await expect(verdict).toHaveText('The plan reads it right at this look.')
  // Further on: what the tag shows is typed, and it is ten times too large.
  const value = await page.getByRole('list', { name: 'Looks' }).locator('b').first().innerText()
  await page.getByRole('textbox', { name: /^Tag in/ }).fill(String(Number(value) * 10))
  await expect(page.locator('[data-path-hop="EM501_Power_factor"]')).toContainText('multiply by 10')
  await view(page, 'Points')
  await expect(row(page, 'Line frequency')).toContainText('22-23')
  await expect(row(page, 'Power factor')).toContainText('ABCD')
  // Taken back like every edit.
  await page.keyboard.press('Control+z')
  await expect(row(page, 'Power factor')).toContainText('CDAB')
})

test('words out of a programming tool: letters beyond F are told and stay; bits are turned by pressing them', async ({
  page,
}) => {
  await meter(page)
  await view(page, 'Why is it wrong')
  await choose(page.getByRole('combobox', { name: 'Point' }), 'Current L1')
  await page.getByRole('button', { name: 'Type or paste words' }).click()
  const words = page.getByRole('textbox', { name: 'Words' })
  await words.fill('4160 G000')
  await expect(page.getByText('"G000" is no word of 16 bits.')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Take these words' })).toBeDisabled()
  await expect(words).toHaveValue('4160 G000')
  await words.fill('4160 0000 00FF')
  await page.keyboard.press('Tab')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('list', { name: 'Looks' })).toContainText('as planned 14.00 A')
  // 4160 0000 is 14; with bit 4 of its high word on it is 15 (IEEE 754).
  await page.getByRole('button', { name: 'Bit 4 of address 6' }).click()
  await expect(page.getByRole('list', { name: 'Looks' })).toContainText('as planned 15.00 A')
  // Further on, in the memory of the controller, the words stand the other way round.
  const paste = async (button: string, from: string, text: string) => {
    await page.getByRole('button', { name: button }).click()
    await page.getByRole('textbox', { name: 'First register' }).fill(from)
    await words.fill(text)
    await page.getByRole('button', { name: 'Take these words' }).click()
    await expect(page.getByRole('dialog')).toHaveCount(0)
  }
  const between = page.locator('[data-path-hop="the memory between"]')
  await paste('Words in a memory between', '100', '0x0000 0x4170')
  await expect(page.getByRole('textbox', { name: 'There it begins at word' })).toHaveValue('100')
  await expect(between).toContainText('swapped')
  await expect(between).not.toContainText('shows what')
  await paste('Words between, again', '100', '0x4170 0x0000')
  await expect(between).toContainText('shows what EM-501 holds, at 1 look.')
  // A word further on in the same paste is no place of this point.
  await page.getByRole('textbox', { name: 'There it begins at word' }).fill('1o1')
  await expect(page.getByText('The word must be a whole number from 0 to 1000000.')).toBeVisible()
  await expect(between).toHaveCount(0)
  await page.getByRole('textbox', { name: 'There it begins at word' }).fill('100')
  // What came is what another unit has at the same registers.
  await paste('Words between, again', '100', '0x4248 0x0000')
  await paste('Words of another unit', '6', '0x4248 0x0000')
  await expect(between).toContainText('another unit')
})

test('requests, the tables for both ends, and the register map taken in again', async ({ page }) => {
  await meter(page)
  await view(page, 'Requests')
  await expect(page.getByRole('status').first()).toContainText('6 points in 1 request')
  await expect(page.getByRole('figure')).toContainText('input registers 0 to 25: 26 registers are read')
  // What must not be read parts the requests; a range the wrong way round is told.
  await page.getByRole('button', { name: /^Addresses that must not be read/ }).click()
  const barred = page.getByRole('textbox', { name: 'Addresses that must not be read' })
  await barred.fill('12-9')
  await page.keyboard.press('Enter')
  await expect(page.getByText('"12-9" ends before it begins.')).toBeVisible()
  await barred.fill('9-12')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('status').first()).toContainText('6 points in 2 requests')
  await expect(barred).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('status').first()).toContainText('6 points in 1 request')
  // How old a value is: what nobody said is named, and what cannot be a time stays and is told.
  const age = page.getByRole('region', { name: 'Age' })
  await expect(age.getByRole('listitem').first()).toContainText('not known: request and answer, the task, the display.')
  await age.getByRole('textbox', { name: /^Request and answer/ }).fill('50')
  await age.getByRole('textbox', { name: /^Task of/ }).fill('-20')
  await expect(age.getByText('-20 is less than nothing.')).toBeVisible()
  await age.getByRole('textbox', { name: /^Task of/ }).fill('20')
  await age.getByRole('textbox', { name: /^Display/ }).fill('500')
  await expect(age.getByRole('listitem').first()).toContainText('0 ms at best, 1.03 s on average, 2.07 s at worst')
  // What the device gives only by itself, the end of its registers, and where its longer values may begin.
  const edit = async (label: string, text: string) => {
    await page.getByRole('button', { name: new RegExp(`^${label}`) }).click()
    await page.getByRole('textbox', { name: label }).fill(text)
    await page.keyboard.press('Enter')
    await expect(page.getByRole('textbox', { name: label })).toHaveCount(0)
  }
  await edit('Registers read alone', '6')
  await expect(page.getByRole('status').first()).toContainText('6 points in 3 requests')
  await edit('Registers read alone', '')
  await expect(page.getByRole('status').first()).toContainText('6 points in 1 request')
  await page.getByRole('button', { name: /^Highest address/ }).click()
  await page.getByRole('textbox', { name: 'Highest address' }).fill('70000')
  await page.keyboard.press('Enter')
  await expect(page.getByText('Highest address 70000 is outside 0 to 65535.')).toBeVisible()
  await page.getByRole('textbox', { name: 'Highest address' }).fill('20')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Highest address' })).toHaveCount(0)
  await view(page, 'Points')
  await expect(page.getByRole('list', { name: 'Found at the points' })).toContainText('the device ends at 20')
  await view(page, 'Requests')
  await edit('Highest address', '')
  const even = page.getByRole('checkbox', { name: 'Longer values only at even addresses' })
  await even.click()
  await expect(even).toBeChecked()
  await view(page, 'Points')
  // All of them begin at even addresses: two at one place stay found, and nothing else.
  await expect(page.getByRole('list', { name: 'Found at the points' }).getByRole('listitem')).toHaveCount(1)
  await view(page, 'Requests')
  await even.click()
  await expect(even).not.toBeChecked()
  const workbook = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Workbook' }).click()
  const points = readFileSync(await (await workbook).path())
  // What goes to the device is sent from the memory: from where nothing fills it, and from where an answer lies.
  await view(page, 'Points')
  await setDirection(page, 'Current L1', 'controller to device')
  await view(page, 'Requests')
  const memory = page.getByRole('region', { name: 'Memory' })
  await expect(page.getByText(/Not made yet: it is not said which words the controller reads/)).toBeVisible()
  await expect(memory).toContainText(
    'Nothing is placed yet, not known: controller reads from word, words that it reads',
  )
  for (const [name, text] of [
    ['Controller reads from word', '0'],
    ['Words that it reads', '200'],
    ['Controller writes from word', '200'],
    ['Words that it writes', '100'],
  ] as const)
    await memory.getByRole('textbox', { name }).fill(text)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'Gateway table' })).toBeEnabled()
  const sent = memory.getByRole('textbox', { name: 'Current L1: sent from word' })
  await sent.fill('450')
  await expect(memory).toContainText('sends cells 450 to 451, which nothing fills and the controller does not write')
  await sent.fill('2')
  await expect(memory).toContainText('Current L1, sent sends what Command 1 fills (cells 2 to 3)')
  await sent.fill('x')
  await expect(memory.getByText(/Sent from word must be a whole number/)).toBeVisible()
  await sent.fill('')
  // With two words of status behind its data a block is two words longer.
  await expect(memory.getByRole('img')).toHaveAccessibleName(/Command 1 at 0 to 25/)
  await memory.getByRole('textbox', { name: 'Status words with each' }).fill('2')
  await expect(memory.getByRole('img')).toHaveAccessibleName(/Command 1 at 0 to 27/)
  await memory.getByRole('textbox', { name: 'Status words with each' }).fill('0')
  // What goes to the device has to say what it may move; it stands among the findings of the plan too.
  await stage(page, 'Line-up').click()
  await page.getByRole('radio', { name: /^Findings/ }).click()
  const found = page.getByRole('region', { name: 'At points' })
  await expect(found).toContainText('Current L1 goes to the device, and what it may move is not written down.')
  await found.getByRole('link', { name: 'EM-501' }).click()
  await view(page, 'Points')
  await row(page, 'Current L1')
    .getByRole('button', { name: /^May move of Current L1/ })
    .click()
  await page.getByRole('textbox', { name: 'May move of Current L1' }).fill('nothing: a test value')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('list', { name: 'Found at the points' })).not.toContainText('what it may move')
  await setDirection(page, 'Current L1', 'device to controller')
  await view(page, 'Requests')
  const taken = async (name: string) => {
    const file = page.waitForEvent('download')
    await page.getByRole('button', { name, exact: true }).click()
    return readFileSync(await (await file).path(), 'utf8')
  }
  expect(await taken('Gateway table')).toMatch(/\r\n1,reads,1,4,0,26,1000,0,26\r\n$/)
  expect(await taken('Command table')).toMatch(/^\ufeffCommand,Unit,Function,.*\r\n1,1,4,0,0,30001,26,1000,6\r\n$/)
  expect(await taken('Tag list')).toContain('  EM501_Current_L1 : REAL; (* Current L1, A *)')
  const map = await taken('Register map')
  await expect(page.locator('[data-table=map]')).toContainText('as taken before')
  await view(page, 'Points')
  await row(page, 'Current L1')
    .getByRole('button', { name: /^Scale of Current L1/ })
    .click()
  await page.getByRole('textbox', { name: 'Scale of Current L1' }).fill('0')
  await page.keyboard.press('Enter')
  await expect(page.getByText('A scale of 0 makes 0 of every value.')).toBeVisible()
  await page.getByRole('textbox', { name: 'Scale of Current L1' }).fill('0 to 10 = 4 to 4')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/is no line: the two values are the same/)).toBeVisible()
  await page.getByRole('textbox', { name: 'Scale of Current L1' }).fill('0.5')
  await page.keyboard.press('Enter')
  await expect(row(page, 'Current L1')).toContainText('0.5')
  // By keyboard: what stands in the row above is taken over.
  const below = row(page, 'Current L1').getByRole('button', { name: /^Unit of Current L1/ })
  await below.focus()
  await page.keyboard.press('Control+d')
  await expect(row(page, 'Current L1').locator('[data-col=unit]')).toHaveText('–')
  await page.keyboard.press('Control+z')
  await expect(row(page, 'Current L1').locator('[data-col=unit]')).toHaveText('A')
  await view(page, 'Requests')
  await expect(page.locator('[data-table=map]')).toContainText('is old: the points have changed since')
  // Taken in again it puts the scale back.
  await view(page, 'Points')
  await page.getByRole('button', { name: 'Paste points' }).click()
  const file = { name: 'map.csv', mimeType: 'text/csv', buffer: Buffer.from(map) }
  await page.getByLabel('CSV or XLSX file').setInputFiles(file)
  await page.getByRole('button', { name: 'Take 6 points' }).click()
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await expect(row(page, 'Current L1').locator('[data-col=scale]')).toHaveText('1')
  // So can the workbook: its first sheet is the points.
  await page.getByRole('button', { name: 'Paste points' }).click()
  const xlsx = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'
  await page.getByLabel('CSV or XLSX file').setInputFiles({ name: 'points.xlsx', mimeType: xlsx, buffer: points })
  await expect(page.getByRole('button', { name: 'Take 6 points' })).toBeEnabled()
  await page.keyboard.press('Escape')
})

test('modules of a row and a command and its answer, by keyboard only', async ({ page }) => {
  await page.goto(app.url)
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await expect(page.locator('tr[data-device]').first()).toBeVisible()
  await page.keyboard.press('4')
  await expect(page.getByRole('heading', { name: 'Data path' })).toBeVisible()
  const shown = page.getByRole('radio', { name: 'Points', exact: true })
  await shown.focus()
  for (const name of ['Why is it wrong', 'Requests', 'Modules']) {
    await page.keyboard.press('ArrowRight')
    await expect(page.getByRole('radio', { name, exact: true })).toBeFocused()
  }
  await page.keyboard.press('Enter')
  const modules = page.getByRole('textbox', { name: 'Modules in slot order, one line each' })
  await expect(modules).toBeVisible()
  await modules.focus()
  await page.keyboard.type('DI 8: 8 x 1 in\nAI 2: 2 x 16 in, 2 x 16 owt')
  await expect(page.getByRole('alert')).toContainText('Line 2: "2 x 16 owt" says no values.')
  for (let k = 0; k < 3; k += 1) await page.keyboard.press('Backspace')
  await page.keyboard.type('out\nDO 4: 4 x 1 out')
  // Check values, "Maps".
  const image = page.getByRole('region', { name: 'Image' })
  await expect(image.getByRole('status')).toHaveText(
    'To enter at the controller: 5 bytes in (3 words), 5 bytes out (3 words).',
  )
  await expect(image).toContainText('word 0 high to word 1 low (bytes 1-2)')
  await expect(image).toContainText('(word 0 >> 8) + (word 1 & 255) * 256')
  // A fixed image, and a copy of it in the program.
  const type = async (label: string, text: string) => {
    await page.getByRole('textbox', { name: label, exact: true }).focus()
    await page.keyboard.press('Control+a')
    await page.keyboard.type(text)
  }
  await type('Fixed image of the head, words', '2')
  await expect(page.locator('[data-fixed]')).toContainText('too short: the modules take 3 in and 3 out')
  await type('Fixed image of the head, words', '8')
  await expect(page.locator('[data-fixed]')).toContainText('5 of the words in and 5 of the words out carry nothing')
  const copy = page.getByRole('status', { name: 'The copy' })
  await expect(copy).toContainText('Not compared')
  await type('Elements, from', '8')
  await type('Elements, to', '6')
  await expect(copy).toContainText('2 are lost or overwrite what follows')
  await type('Elements, to', '8')
  await expect(copy).toContainText('Equal: 8 elements of 16 bits')
  await type('Bits of an element, to', '8')
  await expect(copy).toContainText('every value after the first lies elsewhere')
  await modules.focus()
  await page.keyboard.press('Control+End')
  await page.keyboard.type('\nCPU X')
  await expect(image).toContainText('The size of CPU X is not known')
  await page.getByRole('radio', { name: 'Modules', exact: true }).focus()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByRole('radio', { name: 'Messages' })).toBeFocused()
  await page.keyboard.press('Enter')
  await page.getByRole('textbox', { name: 'Bytes, hexadecimal', exact: true }).focus()
  await page.keyboard.type('3A 01 42 F6 E9 79 FE')
  await page.keyboard.press('Tab')
  await page.keyboard.type('2')
  await page.getByRole('textbox', { name: 'Fields, one line each' }).focus()
  await page.keyboard.type('Flow: float32')
  await expect(page.getByRole('alert')).toContainText('The layout takes 6 bytes')
  await page.keyboard.type('\nState: int8')
  await expect(page.locator('[data-field=Flow]')).toContainText('123.456')
  await expect(page.locator('[data-field=State]')).toContainText('-2')
  await type('Bytes, hexadecimal, without the check', '3A 30 31 52')
  await expect(
    page.getByText(/is not known yet without the line, the poll, the time of the device, the gap/),
  ).toBeVisible()
  await type('Line', '9600 8N1')
  await type('Poll, ms', '500')
  await type('Device, ms', '50')
  await type('Gap, ms', '30')
  await expect(page.getByText(/packets stay apart/)).toBeVisible()
  await type('Buffer, bytes', '3x')
  await page.keyboard.press('Tab')
  await expect(page.getByText(/Buffer must be a whole number/)).toBeVisible()
  await type('Buffer, bytes', '3')
  await expect(page.getByText('The answer of 7 bytes does not go into a buffer of 3.')).toBeVisible()
  await page.keyboard.press('Enter')
  // All of it stands in the job: another laptop has it too, and it can be taken back.
  const buffer = page.getByRole('textbox', { name: 'Buffer, bytes' })
  await page.getByRole('radio', { name: 'Messages' }).focus()
  await page.keyboard.press('Control+z')
  await expect(buffer).toHaveValue('')
  await page.keyboard.press('Control+y')
  await expect(buffer).toHaveValue('3')
  await page.evaluate(() => localStorage.clear())
  await page.reload()
  await expect(buffer).toHaveValue('3')
  await expect(page.getByRole('textbox', { name: 'Fields, one line each' })).toHaveValue('Flow: float32\nState: int8')
  await view(page, 'Modules')
  await expect(modules).toHaveValue(/^DI 8: 8 x 1 in\nAI 2: 2 x 16 in, 2 x 16 out\nDO 4: 4 x 1 out\nCPU X$/)
  await expect(page.getByRole('textbox', { name: 'Fixed image of the head, words' })).toHaveValue('8')
})

test('a point that lies where the terms say: swapped words are found, and the terms of the device are changed', async ({
  page,
}) => {
  const { get, send } = talk(() => app)
  await meter(page)
  const jobId = /jobs\/([^/?]+)/.exec(page.url())?.[1] ?? ''
  const job = await get<{
    handshakes: readonly {
      name: string
      terms: readonly { id: string; version: number; termId: string; end: string }[]
      points: readonly { id: string; version: number; quantity: string }[]
    }[]
  }>(`/jobs/${jobId}`)
  const handshake = job.handshakes.find(({ name }) => name === 'PLC-101 to EM-501')
  const point = handshake?.points.find(({ quantity }) => quantity === 'Voltage L1 to N')
  const order = handshake?.terms.find(({ termId, end }) => termId === 'word-order' && end === 'device')
  await send('POST', `/jobs/${jobId}/changes`, {
    changes: [
      { op: 'set', table: 'term', id: order?.id, version: order?.version, fields: { text: 'CDAB' } },
      { op: 'set', table: 'point', id: point?.id, version: point?.version, fields: { source: null } },
    ],
  })
  await page.reload()
  await view(page, 'Why is it wrong')
  await choose(page.getByRole('combobox', { name: 'Point' }), 'Voltage L1 to N')
  await page.getByRole('button', { name: 'Look at its registers' }).click()
  const swapped = page.locator('[data-explanation]').filter({ hasText: 'Swap the words' }).first()
  await expect(swapped.getByRole('button', { name: 'For this point alone' })).toBeVisible()
  await swapped.getByRole('button', { name: 'Change the terms of EM-501' }).click()
  await page.getByRole('button', { name: 'Look at its registers' }).click()
  await expect(page.locator('[data-verdict]')).toHaveText('The plan reads it right at this look.')
  // Its tag shows a tenth of it: that is what the controller was found with, and the plan stays.
  const looks = await page.getByRole('list', { name: 'Looks' }).textContent()
  const [, value = ''] = /as planned ([\d.]+) V/.exec(looks ?? '') ?? []
  await page.getByRole('textbox', { name: /^Tag in PLC-101/ }).fill(String(Number(value) / 10))
  const tag = page.locator('[data-path-hop="EM501_U1"]')
  await expect(tag).toContainText('divide by 10')
  await tag.getByRole('button', { name: 'As found at PLC-101' }).click()
  await expect(tag).toContainText('Written as found at PLC-101')
  await stage(page, 'Terms').click()
  await choose(page.getByRole('combobox', { name: /^Handshake/ }), /EM-501/)
  await expect(page.getByRole('button', { name: /^Word order of EM-501: ABCD/ })).toBeVisible()
  const now = await get<{ standings: readonly { termId: string; end: string; standing: string; text: string }[] }>(
    `/jobs/${jobId}`,
  )
  expect(now.standings.filter(({ end, standing }) => end === 'controller' && standing === 'found')).toMatchObject([
    { termId: 'scale', text: '0.1' },
  ])
})
