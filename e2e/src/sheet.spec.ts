import { expect, test, type Page } from './test'
import { readFile } from 'node:fs/promises'
import { changeElsewhere, choose } from './app'
import { ownJobs } from './ownJob'

/** The line-up as a sheet of cells: a panel planned from a spreadsheet, by mouse and by keyboard only. */
const jobs = ownJobs('all')

const row = (page: Page, tag: string) =>
  page.locator('tr[data-device]').filter({ has: page.locator('th', { hasText: new RegExp(`^${tag}$`) }) })
const cell = (page: Page, name: string) => page.getByRole('button', { name: new RegExp(`^${name}`) })
const menu = async (page: Page, item: string) => {
  await page.getByRole('button', { name: 'More of the line-up' }).click()
  await page.getByRole('menuitem', { name: item }).click()
}

/** Twelve devices as a panel builder keeps them; IO-05 wants the node of the master, two want one address. */
const TWELVE = [
  'Pos\tDevice tag\tDesignation\tIP\tType\tStation',
  '1\tTB-MST\tBus master\t\tBus master module\tTrunk 04',
  ...Array.from(
    { length: 6 },
    (_, k) => `${k + 2}\tIO-0${k + 1}\tI/O station ${k + 1}\t\tRemote I/O head\tTrunk 0${k}`,
  ),
  ...[61, 62, 62, 64, 65].map(
    (host, k) => `${k + 8}\tPD-0${k + 1}\tPump ${k + 1}\t10.30.1.${host}\tDrive by web page\t`,
  ),
].join('\n')

async function addTrunk(page: Page): Promise<void> {
  await menu(page, 'Add a line or bus')
  await page.getByLabel('Name', { exact: true }).fill('Trunk')
  await choose(page.getByLabel('Electrical kind'), /[Tt]oken/)
  await expect(page.getByLabel('Numbering')).toHaveText('Nodes 0 to 77, octal')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('radio', { name: 'Trunk', exact: true })).toBeVisible()
}

test('by mouse: twelve pasted, columns matched, a duplicate and a master on a node resolved, a block renumbered, undone, exported, taken in again', async ({
  page,
}) => {
  await jobs.open(page, 'Weir Lane')
  await addTrunk(page)
  await page.keyboard.press('p')
  await page.getByRole('textbox', { name: 'Cells from a spreadsheet' }).fill(TWELVE)
  await expect(page.getByRole('combobox', { name: 'What column IP holds' })).toHaveText('Planned address')
  await expect(page.getByRole('combobox', { name: 'What column Station holds' })).toHaveText('Nodes')
  await expect(page.getByRole('combobox', { name: 'What column Pos holds' })).toHaveText('left out')
  await page.getByRole('button', { name: 'Add 12 devices' }).click()
  await expect(page.getByRole('radio', { name: '13 all' })).toBeVisible()

  // The master sits on the octal node that a station needs; the master moves.
  await row(page, 'IO-05').locator('td').last().click()
  await expect(page.getByRole('heading', { name: 'The master sits on this node' })).toBeVisible()
  await page.getByRole('button', { name: 'Set TB-MST to node 06' }).click()
  await expect(page.getByRole('heading', { name: 'The master sits on this node' })).toHaveCount(0)
  await page.getByRole('radio', { name: 'Trunk', exact: true }).click()
  await expect(page.getByRole('list', { name: 'Nodes of Trunk' })).toBeVisible()
  await expect(page.getByRole('button', { name: '06 (decimal 6): TB-MST, master', exact: true })).toBeVisible()

  // Two drives at one address.
  await row(page, 'PD-02').locator('td').last().click()
  await page.getByRole('button', { name: 'Move PD-02 to 10.30.1.63' }).click()
  await expect(page.getByText('Two devices, one address')).toHaveCount(0)

  // A block renumbered, seen before it is done; one step back.
  await menu(page, 'Plan addresses for many')
  await choose(page.getByRole('dialog').getByLabel('For', { exact: true }), /renumbered/)
  await page.getByLabel('Drive by web page').fill('120-139')
  const preview = page.getByRole('table', { name: 'What changes' })
  await expect(preview.getByRole('row', { name: /PD-05/ })).toContainText('10.30.1.124')
  await expect(preview.getByRole('row', { name: /PLC-1/ })).toContainText('It has that address already.')
  await page.getByRole('button', { name: /^Plan \d+ addresses/ }).click()
  await expect(cell(page, 'Planned address of PD-05: 10.30.1.124')).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(cell(page, 'Planned address of PD-05: 10.30.1.65')).toBeVisible()
  await page.keyboard.press('Control+y')
  await expect(cell(page, 'Planned address of PD-05: 10.30.1.124')).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(cell(page, 'Planned address of PD-05: 10.30.1.65')).toBeVisible()

  // Out as XLSX, and in again: nothing is new; with one cell changed by hand that one is.
  await page.getByRole('button', { name: 'More of the line-up' }).click()
  const download = page.waitForEvent('download')
  await page.getByRole('menuitem', { name: 'XLSX' }).click()
  const file = await (await download).path()
  expect((await readFile(file)).subarray(0, 2).toString()).toBe('PK')
  await page.keyboard.press('p')
  await page.getByLabel('CSV or XLSX file').setInputFiles(file)
  await expect(page.getByText('There is a device PD-05 already.')).toBeVisible()
  await page.getByLabel('Change the 13 that are here already').check()
  await expect(page.getByRole('button', { name: 'Add 0, change 13' })).toBeVisible()
  const area = page.getByRole('textbox', { name: 'Cells from a spreadsheet' })
  await area.fill((await area.inputValue()).replace('10.30.1.65', '10.30.1.66'))
  await page.getByRole('button', { name: 'Add 0, change 13' }).click()
  await expect(cell(page, 'Planned address of PD-05: 10.30.1.66')).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(cell(page, 'Planned address of PD-05: 10.30.1.65')).toBeVisible()
})

test('by keyboard only: from cell to cell, filled down, copied, pasted, sorted, filtered, undone', async ({
  page,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write'])
  await jobs.open(page, 'Heron Mill')
  const keys = page.keyboard
  await keys.press('j')
  await expect(page.locator('tr[aria-selected=true] th')).toHaveText('PLC-101')
  for (let k = 0; k < 80; k += 1) {
    if (await cell(page, 'Tag of PLC-101').evaluate((element) => element === document.activeElement)) break
    await keys.press('Tab')
  }
  // Down to a row, right to a column; Enter edits, Escape leaves it.
  for (const key of ['ArrowDown', 'ArrowDown', 'ArrowDown', 'ArrowRight', 'ArrowRight', 'ArrowRight'])
    await keys.press(key)
  await expect(cell(page, 'Planned address of RIO-111')).toBeFocused()
  await keys.press('Enter')
  await keys.type('10.20.40.256')
  await keys.press('Enter')
  await expect(page.getByLabel('Planned address of RIO-111')).toHaveValue('10.20.40.256')
  await keys.press('Escape')
  await expect(cell(page, 'Planned address of RIO-111: 10.20.40.30')).toBeFocused()

  // Three rows chosen; what stands in the first goes down, counting up.
  await keys.press('ArrowUp')
  await keys.press('ArrowUp')
  await expect(cell(page, 'Planned address of PD-101')).toBeFocused()
  await keys.press('Shift+ArrowDown')
  await keys.press('Shift+ArrowDown')
  await expect(page.getByText('3 rows', { exact: true })).toBeVisible()
  await keys.press('Control+d')
  await expect(cell(page, 'Planned address of RIO-111: 10.20.40.23')).toBeVisible()
  await keys.press('Control+z')
  await expect(cell(page, 'Planned address of RIO-111: 10.20.40.30')).toBeVisible()

  // One text into all chosen rows.
  await keys.press('ArrowLeft')
  await keys.press('ArrowLeft')
  await expect(cell(page, 'What RIO-111 is')).toBeFocused()
  await keys.press('Enter')
  await keys.type('Pump house')
  await keys.press('Control+Enter')
  for (const tag of ['PD-101', 'PD-102', 'RIO-111'])
    await expect(cell(page, `What ${tag} is: Pump house`)).toBeVisible()
  await keys.press('Control+z')
  await expect(cell(page, 'What PD-101 is: Duty pump drive')).toBeVisible()
  await keys.press('Escape')

  // Copied from one cell, pasted into another; too much is refused, and nothing is lost.
  await keys.press('Control+c')
  await keys.press('ArrowDown')
  await keys.press('Control+v')
  await expect(cell(page, 'What GW-201 is: Remote I.O head')).toBeVisible()
  await page.evaluate(() => navigator.clipboard.writeText(Array.from({ length: 40 }, (_, k) => `x${k}`).join('\n')))
  await keys.press('Control+v')
  await expect(page.getByText(/40 rows were copied, and 12 are left from here on/)).toBeVisible()

  // The filter, then sorted by a column head.
  await keys.press('/')
  await keys.type('flow serial')
  await expect(page.locator('tr[data-device]')).toHaveCount(4)
  await keys.press('Escape')
  await expect(page.locator('tr[data-device]').nth(10)).toBeVisible()
  await page.getByRole('button', { name: 'Planned', exact: true }).focus()
  await keys.press('Enter')
  await expect(page.getByRole('columnheader', { name: 'Planned' })).toHaveAttribute('aria-sort', 'ascending')
  await expect(page.locator('tr[data-device] th').first()).toHaveText('PLC-101')
  await keys.press('Enter')
  await expect(page.locator('tr[data-device] th').first()).toHaveText('SUP-801')
})

test('the main job by keyboard only: pasted, put right, renumbered, undone, exported, taken in again', async ({
  page,
  context,
}) => {
  // Every step is a key press, some of them many: a slow machine needs longer than for a click.
  test.setTimeout(180_000)
  await context.grantPermissions(['clipboard-read', 'clipboard-write'])
  const keys = page.keyboard
  /** Goes on with Tab until the focus is where a person would stop. */
  const tabTo = async (target: ReturnType<Page['locator']>) => {
    await expect(target).toBeVisible()
    for (let k = 0; k < 250; k += 1) {
      if (await target.evaluate((element) => element === document.activeElement)) return
      await keys.press('Tab')
    }
    throw new Error('Tab never came there')
  }
  const press = async (name: string | RegExp) => {
    await tabTo(page.getByRole('button', { name }).first())
    await keys.press('Enter')
  }
  const fromMenu = async (item: string) => {
    await press('More of the line-up')
    const wanted = page.getByRole('menuitem', { name: item, exact: true }).first()
    await expect(wanted).toBeVisible()
    for (let k = 0; k < 14; k += 1) {
      if (await wanted.evaluate((element) => element === document.activeElement)) break
      await keys.press('ArrowDown')
    }
    await keys.press('Enter')
  }
  await jobs.open(page, 'Weir Lane')
  await fromMenu('Add a line or bus')
  await tabTo(page.getByLabel('Name', { exact: true }))
  await keys.type('Trunk')
  await tabTo(page.getByLabel('Electrical kind'))
  await keys.type('Token')
  await expect(page.getByLabel('Numbering')).toHaveText('Nodes 0 to 77, octal')
  await press('Save')
  await expect(page.getByRole('dialog')).toHaveCount(0)

  await page.evaluate((text) => navigator.clipboard.writeText(text), TWELVE)
  await keys.press('p')
  await tabTo(page.getByRole('textbox', { name: 'Cells from a spreadsheet' }))
  await keys.press('Control+v')
  await expect(page.getByRole('combobox', { name: 'What column Station holds' })).toHaveText('Nodes')
  // A column is taken out and put back by the keys.
  const designation = page.getByRole('combobox', { name: 'What column Designation holds' })
  await tabTo(designation)
  await keys.type('left')
  await expect(designation).toHaveText('left out')
  // A list forgets what was typed into it after a moment; before that it would be one word.
  await page.waitForTimeout(1_200)
  await keys.type('What')
  await expect(designation).toHaveText('What it is')
  await press('Add 12 devices')
  await expect(page.getByRole('radio', { name: '13 all' })).toBeVisible()
  // The rows are there before what is found of them, and the page hears no key while the dialog closes.
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await expect(row(page, 'IO-05').locator('td').last()).toContainText('The master sits on this node')

  // O goes to what is at odds, F to the way out.
  await keys.press('o')
  await expect(page.getByRole('heading', { name: 'The master sits on this node' })).toBeVisible()
  await keys.press('f')
  await keys.press('Enter')
  await expect(page.getByRole('heading', { name: 'The master sits on this node' })).toHaveCount(0)
  await keys.press('o')
  await expect(page.getByRole('heading', { name: 'Two devices, one address' })).toBeVisible()
  await keys.press('f')
  await keys.press('Enter')
  await expect(page.getByText('Two devices, one address')).toHaveCount(0)

  await fromMenu('Plan addresses for many')
  await tabTo(page.getByRole('dialog').getByLabel('For', { exact: true }))
  // The first key opens the list, the second goes on in it: not before it is open and has the focus.
  await keys.press('ArrowDown')
  await expect(page.getByRole('option', { selected: true })).toBeFocused()
  await keys.press('ArrowDown')
  await expect(page.getByRole('option').nth(1)).toBeFocused()
  await keys.press('Enter')
  await expect(page.getByRole('listbox')).toHaveCount(0)
  await tabTo(page.getByLabel('Drive by web page'))
  await keys.press('Control+a')
  await keys.type('120-139')
  await press(/^Plan \d+ addresses/)
  await expect(cell(page, 'Planned address of PD-05: 10.30.1.124')).toBeVisible()
  await keys.press('Control+z')
  await expect(cell(page, 'Planned address of PD-05: 10.30.1.65')).toBeVisible()

  const download = page.waitForEvent('download')
  await fromMenu('CSV')
  const csv = await readFile(await (await download).path(), 'utf8')
  await page.evaluate((text) => navigator.clipboard.writeText(text), csv.replace('10.30.1.65', '10.30.1.66'))
  await keys.press('p')
  await tabTo(page.getByRole('textbox', { name: 'Cells from a spreadsheet' }))
  await keys.press('Control+v')
  await tabTo(page.getByLabel('Change the 13 that are here already'))
  await keys.press('Space')
  await press('Add 0, change 13')
  await expect(cell(page, 'Planned address of PD-05: 10.30.1.66')).toBeVisible()
})

test('the tape is walked by the arrow keys and says what stands at each address', async ({ page }) => {
  await jobs.open(page, 'Heron Mill')
  const tape = page.getByRole('slider', { name: 'Address' })
  await tape.focus()
  await page.keyboard.press('ArrowUp')
  await expect(tape).toHaveAttribute('aria-valuetext', '10.20.40.10: in use by PLC-101')
  for (let k = 0; k < 6; k += 1) await page.keyboard.press('ArrowUp')
  await expect(tape).toHaveAttribute('aria-valuetext', '10.20.40.60: wanted twice, by INV-301 and UPS-401')
  await page.keyboard.press('Enter')
  await expect(page.locator('tr[aria-selected=true]')).toContainText('INV-301')
})

test('a finding is let stand with a reason, stands in the list, and is taken up again', async ({ page }) => {
  await jobs.open(page, 'Heron Mill')
  await page.getByRole('radio', { name: /^Findings/ }).click()
  const list = page.getByRole('region', { name: 'Will not work' })
  // Found at both devices, told once with both named.
  const matter = list.getByRole('listitem').filter({ hasText: 'Two devices, one address' })
  await expect(matter).toHaveCount(1)
  await expect(matter.getByRole('button', { name: 'INV-301', exact: true })).toBeVisible()
  await expect(matter.getByRole('button', { name: 'UPS-401', exact: true })).toBeVisible()
  const node = page.getByRole('listitem').filter({ hasText: 'Left at the node it came with' })
  await expect(node).toHaveCount(1)
  await expect(node).toContainText('OT-211')
  await matter.getByRole('button', { name: 'Let it stand' }).first().click()
  const reason = page.getByRole('textbox', { name: /may stand/ })
  await reason.fill('x')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert').filter({ hasText: 'at least 3' })).toBeVisible()
  await reason.fill('The inverter leaves on Friday')
  await page.keyboard.press('Enter')
  const accepted = page.getByRole('region', { name: 'Accepted' })
  await expect(accepted.getByText(/The inverter leaves on Friday/)).toBeVisible()
  await expect(accepted.getByRole('listitem')).toHaveCount(1)
  await expect(matter).toHaveCount(0)
  await accepted.getByRole('button', { name: 'Take it up again' }).click()
  await expect(matter).toHaveCount(1)
  await expect(accepted).toHaveCount(0)
})

test('asked of others: a device waits, the answer is pasted back and shared out', async ({ page }) => {
  await jobs.open(page, 'Heron Mill')
  await row(page, 'PD-101').locator('td').last().click()
  await page.getByRole('button', { name: 'Ask somebody about PD-101' }).click()
  await page.getByLabel('What is asked').fill('Address for PD-101')
  await page.getByLabel('Needed by').fill('2020-01-01')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(row(page, 'PD-101')).toContainText('Waits for: Address for PD-101')
  await page.getByRole('radio', { name: /^Asked/ }).click()
  const asked = page.getByRole('row', { name: /Address for PD-101/ })
  await expect(asked).toContainText('late')
  await asked.getByRole('button', { name: 'Address for PD-101' }).click()
  await page.getByLabel('The answer, as it came').fill('Hello,\nPD-101: 10.20.40.21 is yours')
  await expect(page.getByRole('list', { name: 'Who gets what' })).toContainText('10.20.40.21 is yours')
  await page.getByRole('button', { name: 'Save the answer' }).click()
  await expect(asked).toContainText('answered')
  await page.emulateMedia({ media: 'print' })
  await expect(page.getByText(/Heron Mill hatchery, pump house: asked on/)).toBeVisible()
})

test('a kind file: wrong ones are refused with every place, a good one can be used and its device kept', async ({
  page,
}) => {
  await jobs.open(page, 'Weir Lane')
  await menu(page, 'Kinds of devices')
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Copy to a file' }).click()
  const text = await readFile(await (await download).path(), 'utf8')
  const take = (content: string) =>
    page
      .getByLabel('Kind file')
      .setInputFiles({ name: 'own.kind.json', mimeType: 'application/json', buffer: Buffer.from(content) })
  await take(text.replace('"role"', '"colour": 1, "role"').replace(/"startUpSeconds": \d+/, '"startUpSeconds": -4'))
  await expect(page.getByText('There is no field "colour" here.')).toBeVisible()
  await expect(page.getByText(/Start up seconds is below 0/)).toBeVisible()
  await take('Tag;IP')
  await expect(page.getByText(/The file is not JSON/)).toBeVisible()
  await take(text)
  await expect(page.getByText('Taken in: Compact controller, own.')).toBeVisible()
  await page.keyboard.press('Escape')
  await row(page, 'PLC-1').locator('td').last().click()
  await choose(page.getByLabel('Kind of PLC-1'), /own/)
  await expect(page.getByText('What is known of: Compact controller, own')).toBeVisible()
})

test('the picture: alike ones are opened, a device picked there is picked in the table', async ({ page }) => {
  await jobs.open(page, 'Three Rivers')
  await page.getByRole('radio', { name: 'Picture' }).click()
  const meters = page.getByRole('button', { name: /^26 × Energy meter/ })
  await expect(meters).toHaveCount(5)
  await meters.first().click()
  await page.getByRole('button', { name: /^EM-103, / }).click()
  await expect(page.locator('tr[aria-selected=true]')).toContainText('EM-103')
})

test('where addresses live: a reservation needs the hardware address; the list is written for a server', async ({
  page,
}) => {
  await jobs.open(page, 'Heron Mill')
  await row(page, 'EM-501').locator('td').last().click()
  await choose(page.getByLabel('Where the address of EM-501 lives'), 'Reservation by hardware address')
  await expect(page.getByRole('heading', { name: 'No hardware address for the reservation' })).toBeVisible()
  await cell(page, 'Hardware address of EM-501').click()
  await page.getByRole('textbox', { name: 'Hardware address of EM-501' }).fill('02-5e-0b-50-01-3a')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'No hardware address for the reservation' })).toHaveCount(0)
  await page.getByRole('button', { name: 'More of the line-up' }).click()
  const download = page.waitForEvent('download')
  await page.getByRole('menuitem', { name: 'dnsmasq' }).click()
  const list = await readFile(await (await download).path(), 'utf8')
  expect(list).toContain('dhcp-host=02:5e:0b:50:01:3a,10.20.40.50,em-501')
  expect(list).toContain('dhcp-host=02:5e:0b:80:01:2c,10.20.41.200,sup-801')
})

test('undo after somebody else changed the row leaves theirs, and says so', async ({ page }) => {
  const jobId = await jobs.open(page, 'Heron Mill')
  await cell(page, 'What EM-501 is').click()
  await page.getByRole('textbox', { name: 'What EM-501 is' }).fill('Mine')
  await page.keyboard.press('Enter')
  await expect(cell(page, 'What EM-501 is: Mine')).toBeVisible()
  const job = await (await fetch(`${jobs.app().url}/api/jobs/${jobId}`)).json()
  const device = job.devices.find((each: { tag: string }) => each.tag === 'EM-501')
  await changeElsewhere(jobs.app(), jobId, 'device', device, { what: 'Theirs' })
  await expect(cell(page, 'What EM-501 is: Theirs')).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(page.getByText(/Somebody changed EM-501 since/)).toBeVisible()
  await expect(cell(page, 'What EM-501 is: Theirs')).toBeVisible()
})
