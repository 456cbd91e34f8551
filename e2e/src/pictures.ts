import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { chromium, type Page } from '@playwright/test'
import { stage, startApp } from './app'
import { chromiumFlags, chromiumPath } from './browser'

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

  await page.getByRole('button', { name: 'Setting', exact: true }).click()
  await page.locator('tr', { hasText: 'OT-211' }).locator('td').last().click()
  await page.getByRole('button', { name: 'Pump house serial', exact: true }).click()
  await page.getByRole('list', { name: /Nodes of/ }).waitFor()
  await shot('setting')
  await page.getByRole('button', { name: 'Plan', exact: true }).click()
  await page.getByRole('button', { name: 'More of the line-up' }).click()
  await page.getByRole('menuitem', { name: 'Plan addresses for many' }).click()
  await page.getByRole('dialog').getByLabel('For', { exact: true }).selectOption('all')
  await page.getByText('Proven at its address.').first().waitFor()
  await shot('renumber')
  await page.keyboard.press('Escape')
  for (const [view, name] of [
    ['Picture', 'picture'],
    ['Findings', 'findings'],
    ['Asked', 'asked'],
  ] as const) {
    await page.getByRole('button', { name: new RegExp(`^${view}`) }).click()
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
}

const app = await startApp(false)
const browser = await chromium.launch({ executablePath: chromiumPath, args: chromiumFlags })
try {
  await takePictures(await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme: 'light' }), app.url)
} finally {
  await browser.close()
  await app.end()
}
