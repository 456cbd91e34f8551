import { expect, test, type Page } from './test'
import { changeElsewhere } from './app'
import { ownJobs } from './ownJob'

const jobs = ownJobs('all')
let jobId = ''
test.beforeEach(async ({ page }) => {
  jobId = await jobs.open(page, 'Heron Mill hatchery')
})

const row = (page: Page, tag: string) =>
  page.locator('tr[data-device]').filter({ has: page.locator('th', { hasText: tag }) })
const cell = (page: Page, name: string) => page.getByRole('button', { name: new RegExp(`^${name}`) })

test('a device is removed and brought back; edits are taken back one after the other', async ({ page }) => {
  await row(page, 'RIO-111').locator('td').last().click()
  await page.getByRole('button', { name: 'Remove RIO-111' }).click()
  await expect(row(page, 'RIO-111')).toHaveCount(0)
  await expect(page.getByText('RIO-111 removed.')).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(row(page, 'RIO-111')).toContainText('10.20.40.30')

  for (const [field, text] of [
    ['What RIO-111 is', 'Remote I/O, pump house'],
    ['Planned address of RIO-111', '10.20.40.31'],
    ['Unit id of RIO-111', '7'],
  ] as const) {
    await cell(page, field).click()
    await page.getByRole('textbox', { name: field }).fill(text)
    await page.keyboard.press('Enter')
    await expect(cell(page, `${field}: ${text.replace('/', '.')}`)).toBeVisible()
  }
  for (const [field, before] of [
    ['Unit id of RIO-111', '1'],
    ['Planned address of RIO-111', '10.20.40.30'],
    ['What RIO-111 is', 'Remote I.O head'],
  ] as const) {
    await page.keyboard.press('Control+z')
    await expect(cell(page, `${field}: ${before}`)).toBeVisible()
  }
})

test('a mistyped first octet: the intended address is the first way out', async ({ page }) => {
  await cell(page, 'Planned address of RIO-111').click()
  await page.getByRole('textbox', { name: 'Planned address of RIO-111' }).fill('11.20.40.30')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'A public address' })).toBeVisible()
  await expect(page.getByText('One number differs from 10.20.40.30.')).toBeVisible()
  await page.getByRole('button', { name: 'Move RIO-111 to 10.20.40.30' }).click()
  await expect(page.getByText(/Nothing in the plan speaks against its address/)).toBeVisible()
})

test('the address tape says in words what it draws, and picks a device', async ({ page }) => {
  const tape = page.getByRole('group', { name: /^Addresses 10\.20\.40\.0 to 10\.20\.40\.255/ })
  await expect(tape).toHaveAttribute(
    'aria-label',
    /In use: 10, 21, 40\. Planned: 22, 30, 50, 80\. Wanted twice: 60\. Found here, moving out: INV-301 at 157\./,
  )
  await tape.locator('[data-tip*=EM-501]').click()
  await expect(page.locator('tr[aria-selected=true]')).toContainText('EM-501')
  await page.getByRole('radio', { name: 'office edge' }).click()
  await expect(page.getByRole('group', { name: /^Addresses 10\.20\.41\.0/ })).toBeVisible()
})

test('a network: what cannot be is told at its field, then it is saved; overlapping ones are found', async ({
  page,
}) => {
  await page.getByRole('button', { name: 'Add a network' }).click()
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill('camera')
  await page.getByRole('textbox', { name: 'Network' }).fill('10.20.40.130/25')
  await page.getByLabel('DHCP ranges').fill('10.20.40.199-150')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByText(/is an address in the network 10\.20\.40\.128\/25/)).toBeVisible()
  await expect(page.getByText(/ends before it begins/)).toBeVisible()
  await page.getByRole('button', { name: 'Use 10.20.40.128/25' }).click()
  await page.getByLabel('DHCP ranges').fill('')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await page.getByRole('radio', { name: 'camera' }).click()
  await expect(page.getByText('Two networks share addresses')).toBeVisible()
  await expect(page.getByText(/camera and process \(10\.20\.40\.0\/24\) share addresses/)).toBeVisible()
  await page.getByRole('button', { name: 'Edit network' }).click()
  await page.getByRole('button', { name: 'Remove camera' }).click()
  await expect(page.getByText('Network camera removed.')).toBeVisible()
  await expect(page.getByText('Two networks share addresses')).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('radio', { name: 'camera' })).toBeVisible()
})

test('filters stand in the address of the page: a link opens the same view', async ({ page }) => {
  await page.getByRole('radio', { name: /at odds/ }).click()
  await expect(page.locator('tr[data-device]')).toHaveCount(5)
  await page.keyboard.press('j')
  await page.keyboard.press('j')
  const chosen = page.locator('tr[aria-selected=true] th')
  await expect(chosen).toHaveText('FM-203')
  await page.reload()
  await expect(page.locator('tr[data-device]')).toHaveCount(5)
  await expect(chosen).toHaveText('FM-203')
  await page.getByRole('radio', { name: /all$/ }).click()
  await expect(page.locator('tr[data-device]')).toHaveCount(16)
})

test('O goes from one at odds to the next; K goes back up', async ({ page }) => {
  const selected = page.locator('tr[aria-selected=true] th')
  const visited: string[] = []
  for (let k = 0; k < 3; k += 1) {
    await page.keyboard.press('o')
    await expect(selected).not.toHaveText(visited.at(-1) ?? '-')
    visited.push((await selected.textContent()) ?? '')
  }
  expect(visited).toEqual(['FM-201', 'FM-203', 'EM-501'])
  await page.keyboard.press('k')
  await expect(selected).toHaveText('OT-211')
})

test('a new device begins a handshake with its controller', async ({ page }) => {
  await page.keyboard.press('a')
  await page.getByLabel('Tag', { exact: true }).fill('EM-501')
  await page.getByRole('button', { name: 'Add', exact: true }).click()
  await expect(page.getByText('There is a device EM-501 already.')).toBeVisible()
  await expect(page.getByLabel('Tag', { exact: true })).toHaveValue('EM-501')
  await page.getByLabel('Tag', { exact: true }).fill('EM-502')
  await page.getByRole('button', { name: 'Add', exact: true }).click()
  await expect(page.getByText('Added: EM-502. Next one?')).toBeVisible()
  await page.keyboard.press('Escape')
  await row(page, 'EM-502').locator('td').last().click()
  await page.getByRole('button', { name: /^Plan 10\.20\.40\.51 for EM-502/ }).click()
  await page.getByRole('button', { name: 'Begin handshake with PLC-101' }).click()
  await expect(page.getByRole('heading', { name: 'Terms' })).toBeVisible()
  await expect(page.getByText('PLC-101 to EM-502')).toBeAttached()
  // What the line-up knows stands at both ends.
  await expect(page.getByRole('button', { name: /^Address of EM-502: 10\.20\.40\.51/ })).toBeVisible()
  await expect(page.getByRole('button', { name: /^Address of PLC-101: 10\.20\.40\.51/ })).toBeVisible()
  await expect(page.getByRole('button', { name: /^Word order of EM-502: not known/ })).toBeVisible()
})

test('a change made elsewhere arrives by itself', async ({ page }) => {
  const job = await (await fetch(`${jobs.app().url}/api/jobs/${jobId}`)).json()
  const device = job.devices.find((each: { tag: string }) => each.tag === 'SC-701')
  await changeElsewhere(jobs.app(), jobId, 'device', device, { what: 'Arrived on Thursday' })
  await expect(row(page, 'SC-701')).toContainText('Arrived on Thursday')
})

test('a slow server: a field that is left while it is saved is saved once, and the next field keeps the focus', async ({
  page,
}) => {
  let patches = 0
  await page.route('**/api/jobs/*/changes', async (route) => {
    patches += 1
    await new Promise((done) => setTimeout(done, 700))
    await route.continue()
  })
  await cell(page, 'Planned address of RIO-111').click()
  await page.getByRole('textbox', { name: 'Planned address of RIO-111' }).fill('10.20.40.33')
  await page.keyboard.press('Enter')
  await cell(page, 'Planned address of EM-501').click()
  const second = page.getByRole('textbox', { name: 'Planned address of EM-501' })
  await page.keyboard.type('10.20.40.5')
  await expect(cell(page, 'Planned address of RIO-111: 10.20.40.33')).toBeVisible()
  await page.waitForTimeout(900)
  await expect(second).toBeFocused()
  await page.keyboard.type('7')
  await page.keyboard.press('Enter')
  await expect(cell(page, 'Planned address of EM-501: 10.20.40.57')).toBeVisible()
  expect(patches).toBe(2)
})

test('Enter on a value that was not changed closes it, and it stays closed', async ({ page }) => {
  await cell(page, 'Planned address of EM-501').click()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Planned address of EM-501' })).toHaveCount(0)
  await expect(cell(page, 'Planned address of EM-501')).toBeFocused()
})

test('a job of 400 devices: scrolled to its end, found, edited', async ({ page }) => {
  await jobs.open(page, 'Three Rivers works')
  await expect(page.getByRole('radio', { name: '400 all' })).toBeVisible()
  // Only the rows near the window are drawn.
  expect(await page.locator('tr[data-device]').count()).toBeLessThan(60)
  await page.getByRole('region', { name: 'Devices' }).evaluate((table) => table.scrollTo(0, table.scrollHeight))
  await expect(row(page, 'EM-526')).toBeVisible()
  await page.keyboard.press('Control+k')
  await expect(page.getByRole('dialog')).toBeVisible()
  await page.keyboard.type('RIO-310')
  await page.keyboard.press('Enter')
  await expect(row(page, 'RIO-310')).toBeVisible()
  await page.keyboard.press('Enter')
  await page.keyboard.type('10.60.3.150')
  await page.keyboard.press('Enter')
  await expect(cell(page, 'Planned address of RIO-310: 10.60.3.150')).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(cell(page, 'Planned address of RIO-310: 10.60.3.69')).toBeVisible()
})

test('twelve devices pasted from a spreadsheet: columns matched, a bad row told and put right, nothing lost', async ({
  page,
}) => {
  const table = [
    'Item\tTag\tDescription\tIP address\tSlave ID\tVia',
    ...Array.from({ length: 9 }, (_, k) => `${k + 1}\tTX-${k + 1}\tLevel ${k + 1}\t10.20.40.${101 + k}\t1\t`),
    '10\tTX-10\tLevel 10\t010.020.040.110\t1\t',
    '11\tTX-11\tLevel 11\t\t3\tGW-201',
    '12\tEM-501\tMeter\t10.20.40.112\t1\t',
  ]
  await page.keyboard.press('p')
  const area = page.getByRole('textbox', { name: 'Cells from a spreadsheet' })
  await area.fill(table.join('\n'))
  await expect(page.getByRole('combobox', { name: 'What column IP address holds' })).toHaveText('Planned address')
  await expect(page.getByRole('combobox', { name: 'What column Slave ID holds' })).toHaveText('Unit id')
  await expect(page.getByRole('combobox', { name: 'What column Item holds' })).toHaveText('left out')
  await expect(page.getByText(/has leading zeros/)).toBeVisible()
  await expect(page.getByText('There is a device EM-501 already.')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Add 10 devices' })).toBeVisible()
  await page.getByRole('button', { name: 'Use 10.20.40.110' }).click()
  await page.getByRole('button', { name: 'Add 11 devices' }).click()
  // The one that could not be read stays, with its head.
  await expect(area).toHaveValue([table[0], table[12]].join('\n'))
  await expect(page.getByRole('button', { name: 'Add 0 devices' })).toBeDisabled()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('radio', { name: '27 all' })).toBeVisible()
  await expect(row(page, 'TX-11')).toContainText('via GW-201')
})

test('a hardware address in any notation is kept in one; written down for two devices it is found', async ({
  page,
}) => {
  const write = async (tag: string, text: string) => {
    await row(page, tag).locator('td').last().click()
    await cell(page, `Hardware address of ${tag}`).click()
    await page.getByRole('textbox', { name: `Hardware address of ${tag}` }).fill(text)
    await page.keyboard.press('Enter')
  }
  await write('PD-101', '025e.0b10.7c14')
  await expect(cell(page, 'Hardware address of PD-101: 02:5E:0B:10:7C:14')).toBeVisible()
  await write('PD-102', '02:5E:0B:1O:7C:l4')
  await expect(page.getByText('O, L cannot stand in a hardware address.')).toBeVisible()
  await page.getByRole('button', { name: 'Use 02:5E:0B:10:7C:14' }).click()
  await expect(page.getByRole('heading', { name: 'One hardware address, two devices' })).toBeVisible()
})

test('the lines are there each time the stage is opened again', async ({ page }) => {
  await expect(row(page, 'SC-701')).toBeVisible()
  for (let k = 0; k < 4; k += 1) {
    await page.keyboard.press('6')
    await expect(page.getByRole('heading', { name: 'Hand-over' })).toBeVisible()
    // Long enough for everything that was on its way to arrive: nothing draws the table a second time then.
    await page.waitForTimeout(600)
    await page.keyboard.press('1')
    await expect(row(page, 'EM-501')).toBeVisible()
    expect(await page.locator('tr[data-device]').count()).toBe(16)
  }
})

test('columns are dragged wider and hidden, and stay so for who did it', async ({ page }) => {
  const head = (name: string) => page.getByRole('columnheader', { name })
  const width = async (name: string) => Math.round((await head(name).boundingBox())?.width ?? 0)
  const before = await width('What it is')
  const edge = await head('What it is').boundingBox()
  if (!edge) throw new Error('no head')
  await page.mouse.move(edge.x + edge.width - 2, edge.y + 10)
  await page.mouse.down()
  await page.mouse.move(edge.x + edge.width + 58, edge.y + 10, { steps: 4 })
  await page.mouse.up()
  await expect.poll(() => width('What it is')).toBe(before + 60)
  await page.getByRole('button', { name: 'Columns of the devices' }).click()
  await page.getByRole('menuitemcheckbox', { name: 'Ladder' }).click()
  await page.keyboard.press('Escape')
  await expect(head('Ladder')).toHaveCount(0)

  // By keys: the edge of the head that has the focus.
  await head('Planned').getByRole('button').focus()
  const planned = await width('Planned')
  await page.keyboard.press('Alt+ArrowRight')
  await expect.poll(() => width('Planned')).toBe(planned + 16)

  await page.reload()
  await expect(head('Ladder')).toHaveCount(0)
  expect(await width('What it is')).toBe(before + 60)
  await page.getByRole('button', { name: 'Columns of the devices' }).click()
  await page.getByRole('menuitem', { name: 'As they were made' }).click()
  await expect(head('Ladder')).toBeVisible()
  expect(await width('What it is')).toBe(before)
})
