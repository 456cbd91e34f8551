import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { expect, test } from './test'
import { startApp, type RunningApp } from './app'

const axeSource = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

test.use({ ownWindow: true })

let app: RunningApp
test.beforeAll(async () => {
  app = await startApp()
})
test.afterAll(() => app.end())

interface AxeResult {
  readonly violations: readonly {
    readonly id: string
    readonly impact: string
    readonly nodes: readonly { readonly html: string }[]
  }[]
}

/** What looks at colours, and is another matter in the dark. */
const OF_COLOUR = ['color-contrast', 'link-in-text-block']

test('axe finds nothing serious on any page, in the light and in the dark', async ({ page }) => {
  // The page's own policy lets no foreign script in, so axe comes in before it.
  await page.addInitScript({ content: axeSource })
  await page.emulateMedia({ reducedMotion: 'reduce' })
  await page.goto(app.url)
  const href = await page.getByRole('link', { name: /Heron Mill hatchery/ }).getAttribute('href')
  const base = `${app.url}${href?.replace('/line-up', '')}`
  const seriousIn = async (path: string, theme: 'light' | 'dark', options: object) => {
    // The page settles which of the two it is when it is opened: turned here as its own button does.
    await page.evaluate((name) => void (document.documentElement.dataset.theme = name), theme)
    const result = (await page.evaluate(`axe.run(document, ${JSON.stringify(options)})`)) as AxeResult
    const serious = result.violations.filter(({ impact }) => impact === 'serious' || impact === 'critical')
    return serious.map(({ id, nodes }) => `${path} ${theme} ${id}: ${nodes[0]?.html}`)
  }
  const background = () => page.evaluate(() => getComputedStyle(document.body).backgroundColor)
  for (const path of [
    '',
    `${base}/line-up`,
    `${base}/first-contact`,
    `${base}/first-contact?view=order`,
    `${base}/first-contact?view=find`,
    `${base}/first-contact?view=console`,
    `${base}/first-contact?view=kept`,
    `${base}/terms`,
    `${base}/data-path`,
    `${base}/data-path?view=why`,
    `${base}/data-path?view=requests`,
    `${base}/data-path?view=modules`,
    `${base}/data-path?view=messages`,
    `${base}/proof`,
    `${base}/hand-over`,
    `${base}/bench`,
    `${base}/record`,
  ]) {
    await page.goto(path === '' ? app.url : path)
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
    await page.waitForLoadState('load')
    const onlyColour = { resultTypes: ['violations'], runOnly: { type: 'rule', values: OF_COLOUR } }
    const inLight = await seriousIn(path, 'light', { resultTypes: ['violations'] })
    const paper = await background()
    const inDark = await seriousIn(path, 'dark', onlyColour)
    expect(await background()).not.toBe(paper)
    expect([...inLight, ...inDark]).toEqual([])
  }
})

test('no request leaves the machine, and the page breaks none of its own policy', async ({ page }) => {
  const outside: string[] = []
  const complaints: string[] = []
  page.on('request', (request) => {
    if (!request.url().startsWith(app.url) && !request.url().startsWith('data:') && !request.url().startsWith('blob:'))
      outside.push(request.url())
  })
  page.on('console', (message) => {
    if (message.type() === 'error') complaints.push(message.text())
  })
  page.on('pageerror', (error) => complaints.push(error.message))
  await page.goto(app.url)
  await page.getByRole('link', { name: /Heron Mill hatchery/ }).click()
  await page.getByRole('button', { name: 'Add a device' }).click()
  await page.keyboard.press('Escape')
  await page.keyboard.press('Control+k')
  await page.keyboard.press('Escape')
  for (const stage of ['3', '5', '6', '7', '1']) {
    await page.keyboard.press(stage)
    await page.waitForTimeout(200)
  }
  expect(outside).toEqual([])
  expect(complaints).toEqual([])
})

test('usable at 1024 and 1920 wide, and Proof readable on a phone', async ({ page }) => {
  await page.goto(app.url)
  const href = (await page.getByRole('link', { name: /Heron Mill hatchery/ }).getAttribute('href')) ?? ''
  const wider = () => page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)
  for (const stage of ['line-up', 'terms', 'data-path', 'proof', 'hand-over']) {
    await page.goto(app.url + href.replace('line-up', stage))
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
    for (const [width, height] of [
      [1024, 768],
      [1920, 1080],
      [390, 844],
    ] as const) {
      if (width < 500 && stage !== 'proof') continue
      await page.setViewportSize({ width, height })
      expect(await wider()).toBeLessThanOrEqual(0)
      const hidden = await page.locator('[data-sheet]').evaluate((sheet) => sheet.scrollWidth - sheet.clientWidth)
      expect(hidden).toBeLessThanOrEqual(0)
    }
  }
})
