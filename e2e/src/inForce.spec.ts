import { randomUUID } from 'node:crypto'
import { expect, test, type Page } from './test'
import { choose, talk } from './app'
import { rows } from './jobParts'
import { ownJobs } from './ownJob'

const jobs = ownJobs()
const { get, send } = talk(jobs.app)

const jobOf = (page: Page) => /jobs\/([^/]+)/.exec(page.url())?.[1] ?? ''
const termsAt = (page: Page, handshakeId: string, more = '') =>
  `${jobs.app().url}/jobs/${jobOf(page)}/terms/${handshakeId}${more}`
async function handshakeOf(page: Page, name: string): Promise<string> {
  const job = await get<{ handshakes: readonly { id: string; name: string }[] }>(`/jobs/${jobOf(page)}`)
  return job.handshakes.find((each) => each.name === name)?.id ?? ''
}

test.beforeEach(async ({ page }) => {
  await jobs.open(page, 'Heron Mill hatchery', 'terms')
  await expect(page.getByText('9 of 10', { exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Set PLC-101 to ABCD' }).click()
  await expect(page.getByText('10 of 10', { exact: true })).toBeVisible()
})

const cell = (page: Page, term: string, column: string) =>
  page.getByRole('button', { name: new RegExp(`^${term}, ${column}: `) })

test('entered, waiting for a restart, seen in force: the rung follows, and the whole job says what waits', async ({
  page,
}) => {
  await page.getByRole('radio', { name: 'Four columns' }).click()
  await page.getByRole('button', { name: 'Entered: all of EM-501 as planned' }).click()
  await expect(page.getByText(/Agreed: Entered and not in force yet: Address, Subnet mask, .*Scale\./)).toBeVisible()
  await page.getByRole('link', { name: '10 pending' }).click()
  const waiting = page.locator('[data-pending="EM-501"]')
  await expect(waiting).toContainText(
    'Saved in its menu and restarted from there; without that it is lost. It takes about 10 s.',
  )
  await waiting.getByRole('button', { name: 'Seen in force: 10 terms' }).click()
  await expect(page.getByText('Nothing waits.')).toBeVisible()
  await page.getByRole('link', { name: 'One by one' }).click()
  await page.getByRole('radio', { name: 'Four columns' }).click()
  await page.getByRole('button', { name: 'In force: all of PLC-101 as planned' }).click()
  await expect(page.getByText('Agreed: All 10 terms are in force at both ends.')).toBeVisible()
  // A plan that changes afterwards opens it again, and says what.
  await page.getByRole('radio', { name: 'Both ends' }).click()
  await expect(page.locator('[data-term="scale"] [data-standing="in-force"]')).toHaveCount(2)
  await page.getByRole('button', { name: /^Scale of EM-501/ }).focus()
  await page.keyboard.press('Enter')
  await page.getByRole('textbox', { name: 'Scale of EM-501' }).fill('0.1')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-term="scale"] [data-standing="otherwise"]')).toHaveCount(1)
})

test('by keyboard: a cell is written, a wrong one refused with what is expected, = is as planned', async ({ page }) => {
  await page.getByRole('radio', { name: 'Four columns' }).click()
  await cell(page, 'TCP port of EM-501', 'as found').focus()
  await page.keyboard.press('Enter')
  const field = page.getByRole('textbox', { name: 'TCP port of EM-501, as found' })
  await expect(field).toHaveValue('502')
  await page.keyboard.type('70000')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/TCP port 70000 is outside 1 to 65535/)).toBeVisible()
  await expect(field).toHaveValue('70000')
  await field.fill('503')
  await page.keyboard.press('Enter')
  await expect(cell(page, 'TCP port of EM-501', 'as found')).toHaveAccessibleName(/: 503$/)
  await expect(page.getByRole('link', { name: '1 pending' })).toBeVisible()
  await cell(page, 'TCP port of EM-501', 'as found').focus()
  await page.keyboard.press('ArrowRight')
  await expect(cell(page, 'TCP port of EM-501', 'entered')).toBeFocused()
  await page.keyboard.press('=')
  await expect(cell(page, 'TCP port of EM-501', 'entered')).toHaveText('as planned')
  await page.keyboard.press('Control+z')
  await expect(cell(page, 'TCP port of EM-501', 'entered')).toHaveText('')
})

test('by single keys on a value, and for many devices in one press', async ({ page }) => {
  const port = page.getByRole('button', { name: /^TCP port of EM-501/ })
  await port.focus()
  await page.keyboard.press('e')
  await expect(page.locator('[data-term="port"] [data-standing="pending"]')).toHaveCount(1)
  await page.keyboard.press('i')
  await expect(page.locator('[data-term="port"] [data-standing="in-force"]')).toHaveCount(1)
  await page.getByRole('link', { name: 'Compare all' }).click()
  await page.getByRole('button', { name: /^All of these 8 devices entered as planned/ }).click()
  await page.getByRole('link', { name: /^\d+ pending/ }).click()
  await expect(page.locator('[data-pending]').first()).toBeVisible()
  expect(await page.locator('[data-pending]').count()).toBeGreaterThan(5)
})

test('the text of a menu is pasted: what it says is held against the plan, and taken as found', async ({ page }) => {
  await page.getByRole('radio', { name: 'Four columns' }).click()
  await page.getByRole('button', { name: 'Paste what a menu or a page shows' }).click()
  const dialog = page.getByRole('dialog')
  // A file is read into the same box; one that is no list of settings is refused by its size.
  const file = (name: string, text: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })
  await dialog.getByLabel('Exported settings').setInputFiles(file('large.txt', 'x'.repeat(1_100_000)))
  await expect(dialog.getByText(/large\.txt has 1100000 bytes/)).toBeVisible()
  await dialog.getByLabel('Exported settings').setInputFiles(file('export.txt', 'Unit id = 7'))
  await expect(dialog.getByLabel('Text')).toHaveValue('Unit id = 7')
  await dialog.getByLabel('Text').fill('== Set-up ==\n1) IP address: 10.20.40.50\nTCP port: 70000\nUnit id = 3')
  await expect(dialog.getByRole('list', { name: 'What was read' })).toContainText(
    'line 3: TCP port 70000 is outside 1 to 65535',
  )
  await expect(dialog.getByText('Not placed: line 1 "== Set-up =="')).toBeVisible()
  await dialog.getByRole('button', { name: 'Take 2: as found' }).click()
  await expect(cell(page, 'Unit id of EM-501', 'as found')).toHaveAccessibleName(/: 3$/)
  await expect(cell(page, 'Address of EM-501', 'as found')).toHaveText('as planned')
  await expect(page.getByRole('link', { name: '1 pending' })).toBeVisible()
})

test('a term that stands in several places: each is listed, and one that differs opens the clasp', async ({ page }) => {
  await page.getByRole('button', { name: /^Address of PLC-101/ }).click()
  const dialog = page.getByRole('dialog')
  for (const [k, where] of ['project', 'second screen'].entries()) {
    await dialog.getByRole('button', { name: 'Place', exact: true }).click()
    await dialog.getByLabel(`Place ${k + 1}`, { exact: true }).fill(where)
  }
  await dialog.getByRole('button', { name: 'same' }).first().click()
  await dialog.getByLabel('What stands in place 2').fill('10.20.40.51')
  await dialog.getByRole('button', { name: 'Set', exact: true }).click()
  await expect(
    page.getByText('second screen at PLC-101 has 10.20.40.51, not 10.20.40.50. Change it there.'),
  ).toBeVisible()
  await page.getByRole('button', { name: /^Address of PLC-101/ }).click()
  await expect(dialog.getByLabel('What stands in place 1')).toHaveValue('10.20.40.50')
  await dialog.getByRole('button', { name: 'same' }).last().click()
  await dialog.getByRole('button', { name: 'Set', exact: true }).click()
  await expect(page.locator('[data-term="address"]')).toHaveAttribute('data-state', 'equal')
})

test('another exchange has other terms: cyclic sizes with status words, an interval outside the limits', async ({
  page,
}) => {
  await choose(page.getByLabel('They speak'), 'Cyclic I/O')
  await expect(page.getByRole('button', { name: /^Function code of/ })).toHaveCount(0)
  const type = async (term: string, text: string) => {
    await page.getByRole('button', { name: new RegExp(`^${term}: `) }).focus()
    await page.keyboard.press('Enter')
    await page
      .getByRole('textbox', { name: term })
      .or(page.getByRole('combobox', { name: term }))
      .fill(text)
    await page.keyboard.press('Enter')
  }
  await type('Input size of PLC-101', '60')
  await expect(page.getByText('60: words or bytes?')).toBeVisible()
  await page.getByRole('button', { name: '60 words' }).click()
  await type('Input size of EM-501', '60 words')
  await expect(page.locator('[data-term="input-size"]')).toHaveAttribute('data-state', 'equal')
  await page.getByRole('button', { name: /more can be compared/ }).click()
  await page.locator('[data-more="input-status"]').click()
  await page.keyboard.type('2')
  await page.keyboard.press('Enter')
  await expect(
    page.getByText('EM-501 has 60 words and 2 status words: 62 words at PLC-101, which has 60 words.'),
  ).toBeVisible()
  await page.getByRole('button', { name: 'Set PLC-101 to 62 words' }).click()
  await expect(page.locator('[data-term="input-size"]')).toHaveAttribute('data-state', 'fits')
  await type('Update interval of EM-501', '2 to 750 ms')
  await type('Update interval of PLC-101', '1')
  await expect(page.getByText(/PLC-101 asks for 1 ms; EM-501 takes 2 to 750 ms/)).toBeVisible()
  await page.getByRole('button', { name: 'Set PLC-101 to 2 ms' }).click()
  const network = page.getByRole('region', { name: 'On the network' })
  await expect(network).toContainText('its output size is not known')
  await type('Output size of PLC-101', '24 bytes')
  // 62 and 12 words every 2 ms: 148 bytes, 500 times a second.
  await expect(network).toContainText('1000 messages and 74 kB of data a second')
})

test('what a meter shows of its settings is read from its registers: a wrong place is refused, what is read is taken as found', async ({
  page,
}) => {
  await page.goto(termsAt(page, await handshakeOf(page, 'PLC-101 to FM-202'), '?view=columns'))
  await page.getByRole('button', { name: 'Read what the device shows' }).click()
  const dialog = page.getByRole('dialog', { name: 'What FM-202 shows of its settings' })
  const seen = dialog.getByRole('list', { name: 'What was read' })
  // A register that is none is refused while it is typed, and stays.
  const where = dialog.getByRole('textbox', { name: 'Where it is mirrored' })
  await where.fill('40021 wide')
  await expect(dialog.getByText('"wide" says neither a type nor a factor.')).toBeVisible()
  await expect(dialog.getByRole('button', { name: 'Add', exact: true })).toBeDisabled()
  await where.fill('40022: 2 = 502')
  await choose(dialog.getByRole('combobox', { name: 'Setting' }), 'TCP port')
  await page.keyboard.press('Tab')
  await where.focus()
  await page.keyboard.press('Enter')
  await expect(dialog.getByRole('list', { name: 'Registers of settings' })).toContainText('TCP port40022: 2 = 502')
  await dialog.getByRole('button', { name: 'Read them' }).click()
  await expect(seen).toContainText('Line settings 9600 8N1as planned (register 40021: 0)')
  await expect(seen).toContainText('TCP port 502as planned (register 40022: 2)')
  await dialog.getByRole('button', { name: /^Take \d+: registers as found/ }).click()
  await expect(dialog).toBeHidden()
  await expect(cell(page, 'Line settings of FM-202', 'as found')).toHaveText('as planned')
  const before = page.locator('[data-download="FM-202"]')
  await expect(before).toContainText(/looked at: 0 change, \d+ stay as they are/)
  await expect(page.locator('[data-download="PLC-101"]')).toContainText('Never looked at: ')
})

test('times of a line are kept with it: the gateway’s leg says them, and the controller’s timeout is judged by them', async ({
  page,
}) => {
  await page.goto(termsAt(page, await handshakeOf(page, 'PLC-101 to FM-202')))
  const line = page.getByRole('region', { name: 'On the line' })
  await line.getByRole('textbox', { name: 'Timeout, ms' }).fill('30x')
  await expect(line.getByText(/Timeout must be a whole number/)).toBeVisible()
  await expect(line.getByRole('button', { name: /^Keep at the line/ })).toBeHidden()
  await line.getByRole('textbox', { name: 'Timeout, ms' }).fill('300')
  await line.getByRole('textbox', { name: 'Gateway takes, ms' }).fill('5')
  await line.getByRole('button', { name: 'Keep at the line: Timeout, Gateway takes' }).click()
  await expect(page.getByLabel('Legs of the way')).toContainText('waits 300 ms, 5 ms of its own')
  await expect(line.getByText(/Timeout and Gateway takes as the line and the terms say/)).toBeVisible()
  // Tries after the first, on a line that damages a bit in ten thousand: more of them make fewer late values.
  const tries = page.getByRole('table', { name: 'Tries after the first, on this line' })
  const late = async () => (await tries.getByRole('row', { name: /^0 / }).textContent()) ?? ''
  const before = await late()
  await choose(line.getByRole('combobox', { name: 'Damaged on the way' }), '1 of 10 000 bits')
  await expect.poll(late).not.toBe(before)
  await line.getByRole('textbox', { name: 'Its value older than, ms' }).fill('soon')
  await expect(line.getByText(/Older than must be a whole number/)).toBeVisible()
  await page.getByRole('heading', { name: /^On the line/ }).click()
  await page.keyboard.press('Control+z')
  await expect(page.getByLabel('Legs of the way')).not.toContainText('waits 300 ms')
})

test('left at default in one press; a drive that was set in local waits until it is seen back in remote', async ({
  page,
}) => {
  const add = (handshakeId: string, termId: string, text: string) =>
    send('POST', `/jobs/${jobOf(page)}/changes`, {
      changes: [
        {
          op: 'add',
          table: 'term',
          id: randomUUID(),
          fields: { handshakeId, termId, end: 'device', text, notation: null, origin: 'its manual', places: [] },
        },
      ],
    })
  const [meter, drive] = [await handshakeOf(page, 'PLC-101 to EM-501'), await handshakeOf(page, 'PLC-101 to PD-102')]
  // What the kind says of itself, planned so, and the mode that the drive works in.
  await add(meter, 'timeout', '100 ms')
  await add(drive, 'local-remote', 'remote')
  // For all that are shown in one press, taken back, and at the device itself.
  await page.goto(termsAt(page, meter, '?view=columns'))
  await page.getByRole('link', { name: 'Compare all' }).click()
  await page.getByRole('button', { name: '1 term left at default' }).click()
  await expect(page.getByRole('button', { name: /left at default/ })).toBeHidden()
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('button', { name: '1 term left at default' })).toBeVisible()
  await page.goto(termsAt(page, meter, '?view=columns'))
  await page.getByRole('button', { name: 'EM-501: 1 left at default' }).click()
  await expect(cell(page, 'Timeout of EM-501', 'in force')).toHaveText('as planned')
  await expect(page.getByRole('button', { name: /left at default/ })).toBeHidden()

  await page.goto(termsAt(page, drive, '?view=columns'))
  await cell(page, 'Scale of PD-102', 'entered').focus()
  await page.keyboard.press('=')
  await expect(cell(page, 'Scale of PD-102', 'entered')).toHaveText('as planned')
  await page.getByRole('link', { name: /^\d+ pending/ }).click()
  const waiting = page.locator('[data-pending="PD-102"]')
  await expect(waiting.locator('[data-return="local-remote"]')).toContainText(
    'Local or remote remoteit is set in local; nobody has seen it back since it was set',
  )
  await waiting.getByRole('button', { name: 'Seen in force: 1 term' }).click()
  // That what was entered is in force does not say that it is back: the mode is looked at by itself.
  await waiting.getByRole('button', { name: 'Seen back in remote' }).click()
  await expect(waiting).toBeHidden()
})

test('limits of a bus: a rate that it has not, and a length that its rate does not carry, are told', async ({
  page,
}) => {
  const id = randomUUID()
  const { devices } = await get<{ devices: readonly { id: string; tag: string }[] }>(`/jobs/${jobOf(page)}`)
  const deviceId = devices.find(({ tag }) => tag === 'PD-102')?.id ?? ''
  await send('POST', `/jobs/${jobOf(page)}/changes`, {
    changes: [
      rows.line(id, { name: 'trunk', medium: 'field-bus', family: 'decimal-0-125' }),
      rows.node(deviceId, id, 9),
    ],
  })
  await page.goto(termsAt(page, await handshakeOf(page, 'PLC-101 to PD-102')))
  await choose(page.getByLabel('They speak'), 'Field bus')
  const rate = page.getByRole('button', { name: /^Bit rate of the bus of PLC-101: / })
  const type = async (text: string) => {
    await rate.focus()
    await page.keyboard.press('Enter')
    const field = page.getByRole('textbox', { name: 'Bit rate of the bus of PLC-101' })
    await field.fill(text)
    await page.keyboard.press('Enter')
    await expect(field).toBeHidden()
  }
  await type('2 Mbit/s')
  await expect(page.getByText(/2 Mbit\/s is no rate of this bus: 9\.6 kbit\/s/)).toBeVisible()
  await type('1.5 Mbit/s')
  await expect(page.getByText(/is no rate of this bus/)).toBeHidden()
  await page.getByRole('button', { name: /more can be compared/ }).click()
  await page.locator('[data-more="line-length"]').click()
  await page.keyboard.type('400')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/400 m long; 200 m is the most at this rate/)).toBeVisible()
})
