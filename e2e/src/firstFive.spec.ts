import { expect, test, type Locator, type Page } from './test'
import { ServerTCP } from 'modbus-serial'
import { choose, stage, startApp, type RunningApp } from './app'
import { freePort } from './ports'

/** From an empty job to a proven reading of a Modbus server by another author, counted as a person would feel it. */
let app: RunningApp
let server: ServerTCP
let port: number
const VOLTS = 230.4
test.beforeEach(async () => {
  app = await startApp()
  port = await freePort()
  const words = Buffer.alloc(4)
  words.writeFloatBE(VOLTS)
  const registers = {
    getHoldingRegister: (address: number) => (address < 2 ? words.readUInt16BE(address * 2) : 0),
  }
  server = new ServerTCP(registers, { host: '127.0.0.1', port, unitID: 1 })
  await new Promise((done) => server.on('initialized', done))
})
test.afterEach(async () => {
  await app.end()
  await new Promise<void>((done) => server.close(() => done()))
})

/** Every click, every field that is filled and every key is one action. */
function counting(page: Page) {
  const done: string[] = []
  return {
    done,
    click: async (target: Locator, what: string) => {
      done.push(`click ${what}`)
      await target.click()
    },
    fill: async (target: Locator, text: string) => {
      done.push(`fill ${text}`)
      await target.fill(text)
    },
    choose: async (target: Locator, text: string) => {
      done.push(`choose ${text}`)
      await choose(target, text)
    },
    press: async (key: string) => {
      done.push(`key ${key}`)
      await page.keyboard.press(key)
    },
    /** A field that has the focus already, filled and left with Tab: one field. */
    type: async (text: string) => {
      done.push(`fill ${text}`)
      await page.keyboard.type(text)
      await page.keyboard.press('Tab')
    },
  }
}

test('from an empty plant job to one proven reading in at most 25 actions', async ({ page }) => {
  const { done, click, fill, choose, press, type } = counting(page)
  const button = (name: string | RegExp) => page.getByRole('button', { name })
  await page.goto(app.url)
  await fill(page.getByLabel('Name'), 'Boiler house')
  await choose(page.getByLabel('Against'), 'Plant: real equipment')
  await click(button('Begin'), 'Begin')

  // The form begins with a controller and stays open for what it asks.
  await click(button('Add the first device'), 'Add the first device')
  const tag = page.getByLabel('Tag', { exact: true })
  const address = page.getByLabel('Planned address', { exact: true })
  await fill(tag, 'PLC-1')
  await fill(address, '127.0.0.1')
  await press('Enter')
  await expect(page.getByText('Added: PLC-1. Next one?')).toBeVisible()
  await expect(tag).toBeFocused()
  await fill(tag, 'EM-1')
  await fill(address, '127.0.0.1')
  await fill(page.getByLabel('TCP port'), String(port))
  await press('Enter')
  await expect(page.getByText('Added: PLC-1, EM-1. Next one?')).toBeVisible()
  await press('Escape')

  // One controller and one device: nothing to choose.
  await press('3')
  await click(button('Begin the handshake'), 'Begin the handshake')
  await expect(button(/^TCP port of PLC-1: /)).toContainText(String(port))

  // Typed one under the other; then the other end as this one says.
  await expect(button(/^Function code of EM-1: not known/)).toBeFocused()
  for (const text of ['3', '40001', '2', 'float32', 'ABCD']) await type(text)
  await click(button(/^Write the 5 open terms of PLC-1 as EM-1 says/), 'Write the open terms')
  await expect(button(/^Word order of PLC-1: ABCD/)).toBeVisible()

  await stage(page, 'Proof').click()
  done.push('click Proof')
  await click(button('Begin reading live'), 'Begin reading live')
  await expect(page.getByText('230.4').first()).toBeVisible()
  // A value that is clicked and typed is a field as any other.
  await button(/^Reference value/).click()
  await page.keyboard.type(String(VOLTS))
  await page.keyboard.press('Enter')
  done.push('fill reference')
  await fill(page.getByLabel(/What PLC-1 shows/), String(VOLTS))
  await click(button(/Record reading as proven/), 'Record')
  await expect(page.locator('[data-rung=reading]')).toHaveAttribute('data-state', 'proven')
  console.log(`${done.length} actions to the first proven reading: ${done.join('; ')}`)
  expect(done.length).toBeLessThanOrEqual(25)
})

test('an empty job searches where the laptop is, and takes in who answers', async ({ page }) => {
  await page.goto(app.url)
  await page.getByLabel('Name').fill('Pump house')
  await page.getByRole('button', { name: 'Begin' }).click()
  await page.getByRole('button', { name: 'Search 10.20.40.0/24, where bench0 is' }).click()
  await page.getByRole('button', { name: 'Take 4 devices into the line-up' }).click()
  await expect(page.locator('tr[data-device]')).toHaveCount(4)
  await expect(page.getByRole('button', { name: 'Planned address of At 10.20.40.50: 10.20.40.50. Edit' })).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('button', { name: 'Take 4 devices into the line-up' })).toBeVisible()
})

test('terms by keyboard: what cannot be read stays with the reason, = takes over, Escape leaves it', async ({
  page,
}) => {
  await page.goto(app.url)
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await stage(page, 'Terms').click()
  const device = page.getByRole('button', { name: /^Word order of EM-501: / })
  const controller = page.getByRole('button', { name: /^Word order of PLC-101: / })
  const field = page
    .getByRole('textbox', { name: 'Word order of EM-501' })
    .or(page.getByRole('combobox', { name: 'Word order of EM-501' }))
  await expect(controller).toContainText('CDAB')
  await device.focus()
  await page.keyboard.press('Enter')
  await expect(field).toHaveValue('ABCD')
  await page.keyboard.type('ABDC')
  await page.keyboard.press('Tab')
  await expect(field).toHaveValue('ABDC')
  await expect(field).toHaveAttribute('aria-invalid', 'true')
  await page.keyboard.press('Escape')
  await expect(device).toContainText('ABCD')
  await controller.focus()
  await page.keyboard.press('=')
  await expect(controller).toContainText('ABCD')
  await page.keyboard.press('Control+z')
  await expect(controller).toContainText('CDAB')
})
