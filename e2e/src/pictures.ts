import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { chromium, type Page } from '@playwright/test'
import { choose, stage, startApp } from './app'
import { chromiumFlags, chromiumPath } from './browser'
import { buildHost } from './hosting'

const folder = fileURLToPath(new URL('../../docs/screenshots', import.meta.url))

/** One current picture of each main view, from the demo data. */
async function takePictures(page: Page, url: string): Promise<void> {
  const shot = async (name: string) => {
    await page.mouse.move(640, 799)
    await page.waitForTimeout(900)
    await page.screenshot({ path: join(folder, `${name}.png`) })
    console.log(`docs/screenshots/${name}.png`)
  }
  await page.goto(url)
  await page.getByRole('link', { name: /Heron Mill/ }).waitFor()
  await shot('start')

  await page.getByRole('link', { name: /Heron Mill/ }).click()
  await page.locator('tr', { hasText: 'UPS-401' }).locator('td').last().click()
  await page.getByText('Two devices, one address').first().waitFor()
  await shot('line-up')

  await page.getByRole('radio', { name: 'Setting', exact: true }).click()
  await page.locator('tr', { hasText: 'OT-211' }).locator('td').last().click()
  await page.getByRole('radio', { name: 'Pump house serial', exact: true }).click()
  await page.getByRole('list', { name: /Nodes of/ }).waitFor()
  await shot('setting')
  await page.getByRole('radio', { name: 'Plan', exact: true }).click()
  for (const [view, name] of [
    ['Picture', 'picture'],
    ['Findings', 'findings'],
  ] as const) {
    await page.getByRole('radio', { name: new RegExp(`^${view}`) }).click()
    await page.getByRole('region', { name: new RegExp(`^${view}`) }).waitFor()
    await shot(name)
  }

  await stage(page, 'Terms').click()
  await page.getByText('9 of 10', { exact: true }).waitFor()
  await shot('terms')

  await stage(page, 'Proof').click()
  await page.getByText(/The words arrive whole/).waitFor()
  await shot('proof-at-odds')

  await page.keyboard.press('3')
  await page.getByRole('button', { name: 'Set PLC-101 to ABCD' }).click()
  await page.getByText('10 of 10', { exact: true }).waitFor()
  await page.keyboard.press('5')
  // Typing holds what is read at that moment: the controller has to run the changed term first.
  await page.locator('[data-hop]').nth(1).and(page.locator('[data-state=inside]')).waitFor()
  await page.getByLabel(/What Pump house screen shows/).fill('230.5')
  await page.locator('[data-verdict=proven]').waitFor()
  await page.getByRole('button', { name: /Record reading as proven/ }).click()
  await page.locator('[data-rung=reading][data-state=proven]').waitFor()
  await page.getByRole('button', { name: 'Dark screen' }).click()
  await shot('proof-dark')
  await page.getByRole('button', { name: 'Light screen' }).click()

  await page.keyboard.press('6')
  await page.getByText('Release first.').waitFor()
  await shot('hand-over')
  await page.getByRole('link', { name: 'Open for print' }).click()
  await page.getByRole('heading', { name: /as-left record/ }).waitFor()
  await shot('record')
  await page.getByRole('link', { name: 'Back' }).click()
  await page.getByRole('heading', { name: 'Hand-over' }).waitFor()
  await page.keyboard.press('7')
  await page.getByRole('switch').first().waitFor()
  await shot('bench')
  await takeDataPath(page, shot)
  await takeFirstContact(page, url, shot)
}

type Shot = (name: string) => Promise<void>

const DOCUMENT = [
  ['Name', 'Address', 'Type', 'Order', 'Unit', 'Min', 'Max', 'Every'],
  ['Current L1', '6', 'float', 'ABCD', 'A', '0', '25', '500'],
  ['Current L2', '8', 'float', 'ABCD', 'A', '0', '25', '500'],
  ['Power, total', '18', 'float', 'ABCD', 'kW', '0', '20', '500'],
  ['Power factor', '21', 'float', 'CDAB', '', '-1', '1', '2000'],
]

async function lookTwice(page: Page, value: string, allowed: string) {
  await page.getByRole('textbox', { name: 'Value' }).fill(value)
  await page.getByRole('textbox', { name: 'Give or take' }).fill(allowed)
  for (const look of ['Look at its registers', 'Look again']) {
    await page.getByRole('button', { name: look }).click()
    await page.getByRole('button', { name: 'Look again' }).waitFor()
    await page.waitForTimeout(1500)
  }
}

/** Points out of a manual, and one of them found to be read one register late and with its words swapped. */
async function takeDataPath(page: Page, shot: Shot) {
  await page.keyboard.press('4')
  await page.getByRole('button', { name: 'Paste points' }).click()
  await page.getByRole('textbox', { name: 'Rows of points' }).fill(DOCUMENT.map((row) => row.join('\t')).join('\n'))
  await page.getByRole('radio', { name: /^From 0/ }).click()
  await page.getByRole('button', { name: 'Take 4 points' }).click()
  await page.locator('[data-quantity="Power factor"]').waitFor()
  await shot('points')
  await page
    .locator('[data-quantity="Power factor"]')
    .getByRole('button', { name: /why is it wrong/ })
    .click()
  // What is known of one point tells of the other: its registers are its own.
  await choose(page.getByRole('combobox', { name: 'Point' }), 'Power, total')
  await lookTwice(page, '2.8', '0.5')
  await choose(page.getByRole('combobox', { name: 'Point' }), 'Power factor')
  await lookTwice(page, '0.86', '0.02')
  await page.locator('[data-explanation="0"]').waitFor()
  await shot('why')
}

/** First contact on the rehearsal: the order, a step in hand, fronts, a search, the console, and a phone. */
async function takeFirstContact(page: Page, url: string, shot: Shot): Promise<void> {
  const send = (method: string, path: string, body: object) =>
    fetch(`${url}/api${path}`, { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })
  const jobs = (await (await fetch(`${url}/api/jobs`)).json()) as readonly { id: string; name: string }[]
  const base = `${url}/jobs/${jobs.find((job) => job.name.includes('rehearsal'))?.id ?? ''}`
  const power = (tag: string) => send('POST', `/bench-fronts/${tag}`, { act: 'power', on: true })
  await page.goto(`${base}/first-contact?view=order`)
  await page.getByText('No order costs less.').waitFor()
  await shot('order')

  await page.goto(`${base}/first-contact`)
  await page.getByRole('button', { name: 'Begin the walk' }).click()
  const step = page.getByRole('region', { name: 'The step in hand' })
  await step.waitFor()
  await page
    .getByRole('button', { name: /^Put Q11 on/ })
    .first()
    .click()
  const yes = async (until: string) => {
    await step.getByRole('button', { name: /Y$/ }).click()
    await step.getByText(until).first().waitFor()
  }
  await step.getByText('A drive with power can start').waitFor()
  await step.getByText('Isolate Q11').waitFor()
  await step.getByRole('button', { name: /Y$/ }).click()
  await page.getByRole('button', { name: /All as drawn/ }).click()
  for (const [label, text, until] of [
    ['Order code on its label', 'VD-110-4-E', 'serial number'],
    ['Serial number', 'S4 7C11', 'Put Q11 on: PD-101'],
  ] as const) {
    await page.getByLabel(label).fill(text)
    await yes(until)
  }
  await power('PD-101')
  await yes('The display of PD-101 comes up')
  await shot('walk')

  await send('PUT', '/bench-laptop', {
    addresses: [{ address: '192.168.1.5', prefix: 24 }],
    cable: 'switch',
    speed: 100,
  })
  for (const tag of ['PD-101', 'PD-102', 'UPS-401', 'MH-510']) await power(tag)
  await page.waitForTimeout(2_500)
  await page.goto(`${base}/first-contact?view=find`)
  await page.getByRole('button', { name: 'Search' }).click()
  await page.getByText('two identities at one address').waitFor()
  await shot('find')

  await page.goto(`${base}/first-contact?view=console`)
  await page.getByRole('button', { name: 'Open' }).click()
  await page.getByRole('button', { name: 'Close and keep the text' }).waitFor()
  await page.keyboard.type('\radmin\rsecret\r4\r', { delay: 80 })
  await page.getByLabel('Read off the console').getByText('192.168.66.20').waitFor()
  await shot('console')

  await page.goto(`${base}/bench`)
  await page.getByRole('listitem', { name: 'Front of PD-102' }).scrollIntoViewIfNeeded()
  await shot('fronts')
  await page.setViewportSize({ width: 390, height: 844 })
  await page.goto(`${base}/first-contact`)
  await page.getByRole('region', { name: 'The step in hand' }).waitFor()
  await shot('walk-phone')
}

await buildHost()
const app = await startApp({ jobs: 'all', anew: true })
const browser = await chromium.launch({ executablePath: chromiumPath, args: chromiumFlags })
try {
  await takePictures(await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme: 'light' }), app.url)
} finally {
  await browser.close()
  await app.end()
}
