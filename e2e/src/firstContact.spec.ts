import { expect, test, type Locator, type Page } from './test'
import { choose, startApp, type RunningApp } from './app'

let app: RunningApp
test.beforeAll(async () => {
  app = await startApp()
})
test.afterAll(() => app.end())

interface JobHead {
  readonly id: string
  readonly name: string
}
const jobId = async (name = 'rehearsal') => {
  const jobs = (await (await fetch(`${app.url}/api/jobs`)).json()) as readonly JobHead[]
  return jobs.find((job) => job.name.includes(name))?.id ?? ''
}
const open = async (page: Page, path = '', name?: string) => {
  await page.goto(`${app.url}/jobs/${await jobId(name)}/first-contact${path}`)
  await expect(page.getByRole('heading', { level: 1, name: 'First contact' })).toBeVisible()
}
const bench = (tag: string, act: object) =>
  fetch(`${app.url}/api/bench-fronts/${tag}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(act),
  })
const benchLaptop = (address: string, speed = 20) =>
  fetch(`${app.url}/api/bench-laptop`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ addresses: [{ address, prefix: 24 }], cable: 'switch', speed }),
  })

/** Begins the walk, where nobody has begun it yet. */
const begun = async (page: Page) => {
  const begin = page.getByRole('button', { name: 'Begin the walk' })
  await expect(begin.or(page.locator('[data-walk]'))).toBeVisible()
  if (await begin.isVisible()) await begin.click()
  await expect(page.locator('[data-walk]')).toBeVisible()
}

const step = (page: Page): Locator => page.getByRole('region', { name: 'The step in hand' })
const stop = (page: Page, title: string): Locator =>
  page.getByRole('list', { name: 'Stops of the walk' }).getByRole('button', { name: new RegExp(title) })
const says = (page: Page, text: string | RegExp) => expect(step(page)).toContainText(text)

test('the order is computed, with its reasons, its cost against list order, and a chart', async ({ page }) => {
  await open(page, '?view=order')
  await expect(page.getByText('No order costs less.')).toBeVisible({ timeout: 20_000 })
  const costs = page.getByRole('region', { name: 'What the order costs' })
  await expect(costs.getByText('in list order')).toBeVisible()
  await expect(
    costs.getByText('PD-102 stays unpowered: it has the same address as PD-101, 192.168.1.20.'),
  ).toBeVisible()
  await expect(page.getByRole('img', { name: /What is done when/ }).locator('canvas')).toBeVisible()
  // Two at work finish earlier, and the choice is kept.
  const finish = page.locator('[data-figure]').nth(2).locator('b')
  const alone = await finish.innerText()
  await choose(page.getByLabel('People at work'), 'two')
  await expect(finish).not.toHaveText(alone)
  await page.reload()
  await expect(page.getByLabel('People at work')).toHaveText('two')
  // What is above it grows when the order is found: a list that was opened before would go along, out of sight.
  await expect(finish).toBeVisible()
  await choose(page.getByLabel('People at work'), 'one')
})

test('one device from unpowered to verified, by keyboard: a reason, an unexpected lamp, a timer over a restart', async ({
  page,
}) => {
  test.setTimeout(120_000)
  await benchLaptop('10.20.40.5', 1)
  await open(page)
  await begun(page)
  await stop(page, 'Put Q3 on').click()
  await expect(page.getByRole('heading', { name: 'Put Q3 on: MH-510' })).toBeVisible()

  // A caution blocks; it is overridden with a reason that the log keeps.
  await says(page, 'Isolate Q3')
  await says(page, 'When Q3 goes on')
  await page.getByRole('button', { name: 'Park' }).click()
  await page.getByLabel('In words').fill('x')
  await page.getByRole('button', { name: 'Park it' }).click()
  await expect(page.getByRole('alert')).toContainText('at least 3')
  await page.getByRole('button', { name: 'Leave it' }).click()
  await page.keyboard.press('y')

  await page.getByRole('button', { name: /All as drawn/ }).click()
  await says(page, 'order code on the label')
  await page.keyboard.press('y')
  // A refusal reads as a sentence.
  await expect(step(page).getByRole('alert')).toHaveText(
    'Nothing is written down. Expected what was read; found nothing.',
  )
  await page.keyboard.press('r')
  await page.keyboard.type('MM-3')
  await page.keyboard.press('Enter')
  await says(page, 'serial number')
  // What went wrong at one step says nothing of the next.
  await expect(step(page).getByRole('alert')).toHaveCount(0)
  await page.keyboard.press('Escape')
  await page.keyboard.press('n')
  await page.getByLabel('In words').fill('label is on the back, behind the rail')
  await page.keyboard.press('Enter')

  await says(page, 'Put Q3 on: MH-510')
  await bench('MH-510', { act: 'power', on: true })
  await page.keyboard.press('y')

  // A lamp that is not as the kind says is recorded as seen, and the step stays open.
  await says(page, 'Lamps of MH-510')
  await page.keyboard.press('n')
  await page.getByLabel('In words').fill('Head lamp flashes amber')
  await page.getByRole('button', { name: 'Record what I see' }).click()
  await says(page, 'Head lamp flashes amber')
  await expect(page.getByRole('navigation', { name: 'The walk' }).getByText('1 at odds').nth(1)).toBeVisible()
  await page.keyboard.press('y')

  // The wait began with the power. It runs on the server: it goes on through a reload and through a restart.
  await says(page, 'It starts.')
  await expect(step(page).getByRole('timer')).toContainText('10.20.40.55 is looked at by itself')
  // An accepted request without more to say is no failure, and a key that has nothing to do does nothing.
  await expect(page.getByRole('alert')).toHaveCount(0)
  const startedAt = async () => {
    const walk = (await (await fetch(`${app.url}/api/jobs/${await jobId()}/walk`)).json()) as {
      readonly steps: readonly {
        readonly wait: { readonly startedAt: number; readonly rangAt: number | null } | null
      }[]
    }
    return walk.steps.find((each) => each.wait?.rangAt === null)?.wait?.startedAt
  }
  const before = await startedAt()
  expect(before).toBeGreaterThan(0)
  for (let k = 0; k < 4; k += 1) await page.keyboard.press('y')
  await page.waitForTimeout(300)
  expect(await startedAt()).toBe(before)
  await expect(page.getByRole('alert')).toHaveCount(0)
  await page.reload()
  await expect(step(page).getByRole('timer')).toBeVisible()
  await app.stop()
  await app.startAgain()
  await bench('MH-510', { act: 'power', on: true })
  await expect(page.locator('[data-toast]')).toContainText(/Back at 10\.20\.40\.55 after/, { timeout: 40_000 })
  await page.getByRole('button', { name: 'Seen' }).click()
  // Its caution was settled by a reason: that is said, and shown.
  await expect(page.getByText('This stop is settled, in part by a reason.')).toBeVisible()

  await stop(page, 'Find MH-510 again').click()
  await says(page, 'MH-510 answers at 10.20.40.55')
  await page.keyboard.press('y')
  await expect(page.getByRole('region', { name: 'MH-510' }).getByText('read live').last()).toBeVisible()
  await expect(
    page.getByRole('navigation', { name: 'The walk' }).getByRole('link', { name: /First contact/ }),
  ).toContainText('3/9')
  const log = await (await fetch(`${app.url}/api/jobs/${await jobId()}/log`)).text()
  expect(log).toContain('label is on the back, behind the rail')
})

test('a device that does not answer: the check says so, and the tree says why', async ({ page }) => {
  await benchLaptop('192.168.66.5')
  await open(page)
  await begun(page)
  await stop(page, 'Find PD-101 again').click()
  await says(page, 'PD-101 answers at 10.20.40.21')
  await page.keyboard.press('y')
  await says(page, 'Nothing answers at 10.20.40.21')
  const causes = page.getByRole('list', { name: 'Why nothing answers' })
  await expect(causes.getByText('Is the laptop in its subnet?')).toBeVisible()
  await expect(causes.locator('[data-verdict=at-odds]').first()).toBeVisible()
  await benchLaptop('10.20.40.5')
})

test('the laptop is set for a subnet: the text to type, the tick by itself, the ledger until it is back', async ({
  page,
}) => {
  await open(page)
  await begun(page)
  await stop(page, 'Laptop into 192.168.66.0/24').click()
  await expect(
    page.getByText(/netsh interface ip set address "bench0" static 192\.168\.66\.\d+ 255\.255\.255\.0/),
  ).toBeVisible()
  await expect(page.getByText(/networksetup -setmanual/)).toBeVisible()
  await expect(page.getByText(/ip addr add 192\.168\.66/)).toBeVisible()
  await page.getByRole('button', { name: /Set the bench laptop to 192\.168\.66\.\d+/ }).click()
  // Both steps tick themselves: the server sees its adapters.
  await expect(page.getByText('This stop is settled.')).toBeVisible()
  await expect(page.getByText(/In 192\.168\.66\.0\/24: bench0/)).toBeVisible()
  await page.getByRole('button', { name: /temporary thing/ }).click()
  const ledger = page.getByRole('dialog', { name: 'Temporary things' })
  await expect(ledger.getByText(/Laptop at 192\.168\.66/)).toBeVisible()
  await ledger.getByRole('button', { name: 'It is back' }).click()
  await expect(ledger.getByText('Nothing is outstanding.')).toBeVisible()
  await page.keyboard.press('Escape')
  await benchLaptop('10.20.40.5')
})

test('a search of the network: who answers, who is silent, who is unknown', async ({ page }) => {
  await open(page, '?view=find')
  await choose(page.getByLabel('Search in'), '10.20.40.0/24')
  await page.getByRole('button', { name: 'Search' }).click()
  await expect(page.getByText(/254 hosts in/)).toBeVisible({ timeout: 20_000 })
  const row = (address: string) => page.getByRole('row').filter({ hasText: address })
  await expect(row('10.20.40.10').first()).toContainText('answers as planned')
  await expect(row('10.20.40.21')).toContainText('planned, silent')
  await expect(row('10.20.40.50')).toContainText('nobody planned it')
})

test('a twin is identified by pulling its plug, and that is kept', async ({ page }) => {
  await benchLaptop('192.168.1.5', 100)
  for (const tag of ['PD-101', 'PD-102']) await bench(tag, { act: 'power', on: true })
  await open(page, '?view=find')
  await page.waitForTimeout(600)
  await choose(page.getByLabel('Device', { exact: true }), 'PD-102 at 192.168.1.20')
  await page.getByRole('button', { name: 'Watch who goes' }).click()
  await expect(page.getByText(/Pull the plug of PD-102 now/)).toBeVisible()
  await bench('PD-102', { act: 'plug', on: false })
  await expect(page.getByText(/It is PD-102: plug pulled, 192\.168\.1\.20 went silent/)).toBeVisible({
    timeout: 20_000,
  })
  await open(page)
  await begun(page)
  await stop(page, 'Set PD-102 to').click()
  await expect(page.getByRole('region', { name: 'PD-102' }).getByText(/Which box it is: plug pulled/)).toBeVisible()
  for (const tag of ['PD-101', 'PD-102']) await bench(tag, { act: 'power', on: false })
  await bench('PD-102', { act: 'plug', on: true })
  await benchLaptop('10.20.40.5')
})

test('a console that cannot be opened says what was found and what is expected', async ({ page }) => {
  await open(page, '?view=console')
  await choose(page.getByLabel('Console over'), 'another port or address')
  await page.getByLabel('Port or address:port').fill('/dev/ttyUSB7')
  await page.getByLabel('Line').fill('9600 8X1')
  await page.getByRole('button', { name: 'Open' }).click()
  await expect(page.getByRole('alert')).toContainText('is not the setting of a line')
  await expect(page.getByLabel('Port or address:port')).toHaveValue('/dev/ttyUSB7')
})

test('a before-picture and what is different afterwards', async ({ page }) => {
  await benchLaptop('10.20.40.5', 100)
  await bench('MH-510', { act: 'power', on: true })
  await page.waitForTimeout(600)
  await open(page, '?view=kept')
  // With nothing to compare, nothing is as it was.
  await page.getByRole('button', { name: 'Compare with now' }).click()
  await expect(page.getByRole('status')).toContainText('Not conclusive: no before-picture is kept.')
  await page.getByLabel('Alarms and key values, one in a line').fill('Level low, old')
  await page.getByRole('button', { name: 'Take the before-picture' }).click()
  await expect(page.getByRole('button', { name: /^Before-picture/ })).toBeVisible()
  await page.getByRole('button', { name: 'Compare with now' }).click()
  await expect(page.getByRole('status')).toContainText(/As it was before\. Compared [1-9]\d* of \d+\./)
  await bench('MH-510', { act: 'power', on: false })
  await page.getByRole('button', { name: 'Compare with now' }).click()
  await expect(page.getByRole('status')).toContainText('MH-510 Answered before, is silent now.')
})

test('runs: a copy is made, saved, taken from a file; a broken file is refused with its place', async ({ page }) => {
  await open(page, '?view=order')
  const runs = page.getByRole('region', { name: 'Runs' })
  await expect(runs.getByLabel('Run of PD-101')).toHaveText('Address by keypad')
  await runs
    .getByRole('row', { name: /PD-101/ })
    .getByRole('button', { name: 'Look' })
    .click()
  const dialog = page.getByRole('dialog', { name: 'Address by keypad' })
  await expect(dialog).toContainText('Power off until the display is dark')
  await dialog.getByRole('button', { name: 'Copy into this job' }).click()
  await expect(dialog).toBeHidden()
  await expect(runs.getByLabel('Run of PD-101')).toContainText('Address by keypad, own')
  const broken = {
    format: 'calm-handshake-runs',
    version: 1,
    runs: [
      {
        id: 'x',
        name: 'Broken',
        about: 'b',
        kinds: [],
        ways: [],
        steps: [{ id: 's', phase: 'set', kind: 'guess', say: 'Guess' }],
      },
    ],
  }
  await runs
    .getByLabel('File of runs')
    .setInputFiles({ name: 'x.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(broken)) })
  await expect(page.getByRole('alert')).toContainText('runs[0].steps[0].kind')
})

test('devices that cannot be walked are said, with what would help, and the rest is planned', async ({ page }) => {
  await open(page, '', 'hatchery')
  const left = page.getByRole('region', { name: 'Not in the order' })
  await expect(left).toContainText('INV-301 and UPS-401 are to have the same address.', { timeout: 20_000 })
  await expect(left).toContainText('RIO-111 is set over IP and has no address yet.')
  await expect(page.getByRole('button', { name: 'Begin the walk' })).toBeEnabled()
})

test('by mouse: a drive from unpowered to verified, with its keypad, breaker and mode at the bench', async ({
  page,
  browser,
}) => {
  test.setTimeout(120_000)
  await benchLaptop('10.20.40.5', 100)
  // A window of its own: the page behind another tab draws once a second, and each press would wait for that.
  const bench = await browser.newContext()
  const panel = await bench.newPage()
  await panel.goto(`${app.url}/jobs/${await jobId()}/bench`)
  const drive = panel.getByRole('listitem', { name: 'Front of PD-101' })
  const breaker = drive.getByRole('switch', { name: /Q11 on/ })
  const turn = async (on: boolean) => {
    await breaker.click()
    await expect(breaker).toHaveAttribute('aria-checked', String(on))
  }
  await open(page)
  await begun(page)
  const press = (name: RegExp) => step(page).getByRole('button', { name }).click()
  const next = async (title: string) => {
    await stop(page, title).first().click()
    await expect(page.locator('[data-walk] h2').first()).toContainText(title)
  }

  await next('Put Q11 on')
  await says(page, 'A drive with power can start')
  await says(page, 'Isolate Q11')
  await press(/I have read both/)
  await page.getByRole('button', { name: /All as drawn/ }).click()
  for (const [label, text] of [
    ['Order code on its label', 'VD-110-4-E'],
    ['Serial number', 'S4 7C11'],
  ] as const) {
    await page.getByLabel(label).fill(text)
    await press(/^Record/)
  }
  await says(page, 'Put Q11 on: PD-101')
  await turn(true)
  await press(/^Done/)
  await says(page, 'The display of PD-101')
  await press(/^I see it/)
  await expect(page.locator('[data-toast]')).toBeVisible({ timeout: 15_000 })
  await page.getByRole('button', { name: 'Seen' }).click()

  await next('Set PD-101 to 10.20.40.21')
  // The keypad has power now: its mode comes here, and not before.
  await says(page, 'Mode of PD-101 at local')
  await choose(drive.getByLabel('Mode of PD-101'), 'local')
  await press(/^Done/)
  await says(page, 'It is known which box PD-101 is')
  await press(/Check now/)
  await says(page, 'The next step writes to PD-101')
  await press(/I have read it/)
  await says(page, 'four parameters')
  // 192.168.1.20 to 10.20.40.21, an octet at a time: up by tens, then by ones, round over 255.
  for (const [tens, ones, shows] of [
    [7, 4, '010'],
    [10, 8, '020'],
    [3, 9, '040'],
    [0, 1, '021'],
  ] as const) {
    await drive.getByRole('button', { name: 'Menu' }).click()
    for (let k = 0; k < tens; k += 1) await drive.getByRole('button', { name: 'Up by ten' }).click()
    for (let k = 0; k < ones; k += 1) await drive.getByRole('button', { name: 'Up', exact: true }).click()
    await expect(drive.locator('[data-display]')).toContainText(shows)
  }
  await press(/^Done/)
  await expect(page.getByRole('region', { name: 'PD-101' })).toContainText('Entered10.20.40.21')

  await next('Take Q11 off')
  await turn(false)
  await press(/^Done/)
  await says(page, 'Power off until the display is dark')
  await press(/^I see it/)
  await page
    .getByRole('list', { name: 'Stops of the walk' })
    .getByRole('button', { name: /Put Q11 on/ })
    .nth(1)
    .click()
  await says(page, 'When Q11 goes on')
  await press(/I have read it/)
  await turn(true)
  await press(/^Done/)
  await expect(page.locator('[data-toast]')).toContainText('Back at 10.20.40.21', { timeout: 15_000 })
  await page.getByRole('button', { name: 'Seen' }).click()

  await next('Find PD-101 again')
  await press(/Check now/)
  await says(page, 'Mode of PD-101 back to remote')
  await choose(drive.getByLabel('Mode of PD-101'), 'remote')
  await press(/^Done/)
  await expect(page.getByText('This stop is settled.')).toBeVisible()
  await expect(page.getByRole('region', { name: 'PD-101' })).toContainText('Verified10.20.40.21')
  await bench.close()
})

test.describe('on a phone, behind a passcode', () => {
  let guarded: RunningApp
  test.beforeAll(async () => {
    guarded = await startApp({ passcode: 'heron-mill-7' })
  })
  test.afterAll(() => guarded.end())
  test.use({ ownWindow: true, viewport: { width: 390, height: 844 }, hasTouch: true })

  test('nothing is told without the passcode; with it the step in hand fills the screen', async ({ page }) => {
    const bare = await fetch(`${guarded.url}/api/jobs`)
    expect(bare.status).toBe(401)
    await page.goto(guarded.url)
    await page.getByLabel(/Your name/).fill('R. Osei')
    await page.getByLabel('Passcode').fill('wrong-one')
    await page.getByRole('button', { name: 'Come in' }).click()
    await expect(page.getByRole('alert')).toContainText('fits no role')
    await page.getByLabel('Passcode').fill('heron-mill-7')
    await page.getByRole('button', { name: 'Come in' }).click()
    await page.getByRole('link', { name: /rehearsal/ }).click()
    await page.waitForURL(/line-up/)
    await page.goto(page.url().replace('/line-up', '/first-contact'))
    await page.getByRole('button', { name: 'Begin the walk' }).tap()
    await expect(step(page)).toBeVisible()
    // What comes first is only looked at; a breaker has its caution.
    await stop(page, 'Put Q11 on').first().tap()
    const yes = page.getByRole('button', { name: /I have read/ })
    const box = await yes.boundingBox()
    expect(box?.height).toBeGreaterThanOrEqual(44)
    expect((box?.x ?? 0) + (box?.width ?? 0)).toBeLessThanOrEqual(390)
    // Nothing is cut off sideways.
    expect(await page.evaluate('document.documentElement.scrollWidth')).toBeLessThanOrEqual(390)
    const before = await step(page).innerText()
    await yes.tap()
    await expect(step(page)).not.toHaveText(before)
    await page.getByRole('button', { name: 'On the phone' }).click()
    await expect(page.getByRole('img', { name: /Code for http/ })).toBeVisible()
  })
})
