import { expect, test, type Page } from './test'
import bwipjs from 'bwip-js/node'
import { startApp, talk, type RunningApp } from './app'
import { laptopAt, rehearsalOf } from './jobParts'

let app: RunningApp
test.beforeAll(async () => {
  app = await startApp()
})
test.afterAll(() => app.end())

const api = talk(() => app)
const { get, send } = api
const boxes = ['RIO-111', 'SC-701']

/** The rehearsal with two boxes at their factory addresses to walk, both behind one breaker. */
const twoBoxes = () =>
  rehearsalOf(app, api, { tags: boxes, changed: { tag: 'SC-701', fields: { isolation: 'Q5' } }, isLive: false })

const step = (page: Page) => page.getByRole('region', { name: 'The step in hand' })

/** What hands do at the boxes and at the laptop for the step that is shown. */
async function hands(text: string): Promise<void> {
  const laptop = /wired adapter: ([\d.]+)\//.exec(text)?.[1]
  if (laptop) return laptopAt(api, laptop)
  if (/Put Q5 on/.test(text)) {
    for (const tag of boxes) await send('POST', `/bench-fronts/${tag}`, { act: 'power', on: true })
    return
  }
  const address = /On its page: address ([\d.]+)/.exec(text)?.[1]
  if (!address) return
  const { fronts } = await get<{ readonly fronts: readonly { readonly tag: string; readonly page: string | null }[] }>(
    '/bench-fronts',
  )
  const tag = address.endsWith('.30') ? 'RIO-111' : 'SC-701'
  await fetch(fronts.find((each) => each.tag === tag)?.page ?? '', {
    method: 'POST',
    body: new URLSearchParams({ address, mask: '255.255.255.0', gateway: '10.20.40.1' }).toString(),
  })
}

/** What the step in hand says once nothing moves any more: several steps may be settled by one press. Blank when all is over. */
async function atRest(page: Page): Promise<string> {
  const read = () =>
    step(page)
      .innerText({ timeout: 500 })
      .catch(() => '')
  for (let before = await read(); ;) {
    await page.waitForTimeout(400)
    const now = await read()
    if (now === before) return now
    before = now
  }
}

const labels: Readonly<Record<string, string>> = {
  'RIO-111': 'P/N: RH-8D2A4Q-C; S/N: S4 3001; MAC: 02:5E:0B:10:30:01',
  'SC-701': 'P/N: SS-1R; S/N: S4 7001; MAC: 02:5E:0B:10:70:01',
}

test('two boxes at their factory addresses, from no power to verified, in at most 16 actions', async ({ page }) => {
  test.slow()
  const id = await twoBoxes()
  let actions = 0
  const act = async (what: () => Promise<void>) => {
    actions += 1
    await what()
  }
  await page.goto(`${app.url}/jobs/${id}/first-contact`)
  await page.getByRole('button', { name: 'Begin the walk' }).click()
  await expect(page.locator('[data-walk]')).toBeVisible()
  const over = page.getByText('Every stop is settled.')
  for (let turn = 0; turn < 60 && !(await over.isVisible()); turn += 1) {
    await expect(step(page).or(over).first()).toBeVisible()
    if (await over.isVisible()) break
    const text = await atRest(page)
    if (text === '') continue
    const device = boxes.find((tag) => text.includes(tag)) ?? ''
    if (
      /label of|serial number/.test(text) &&
      (await step(page)
        .getByLabel(/Picture of the label/)
        .count()) > 0
    ) {
      const buffer = await bwipjs.toBuffer({
        bcid: 'datamatrix',
        text: labels[device] ?? '',
        scale: 4,
        padding: 12,
        backgroundcolor: 'FFFFFF',
      })
      await act(() =>
        step(page)
          .getByLabel(/Picture of the label/)
          .setInputFiles({ name: 'label.png', mimeType: 'image/png', buffer }),
      )
      await act(() =>
        step(page)
          .getByRole('button', { name: /^Take these/ })
          .click({ timeout: 30_000 }),
      )
      // One tap settles both steps of this box, one after the other.
      await expect(page.getByText(`Write down, ${device}`)).toHaveCount(0)
    } else {
      await hands(text)
      const sheet = page.getByRole('button', { name: /^All as drawn/ })
      const button = (await sheet.isVisible()) ? sheet : step(page).getByRole('button', { name: / Y$/ })
      // What the program sees by itself settles itself: it is waited for, not pressed.
      const isLook = /wired adapter|^Check|^Wait|The laptop is in/.test(text)
      if (!isLook) await act(() => button.click())
    }
    await expect
      .poll(
        async () =>
          (await over.isVisible()) ||
          // With the last step gone there is nothing to read: it is looked again whether all is over.
          (await step(page)
            .innerText({ timeout: 500 })
            .catch(() => text)) !== text,
        {
          timeout: 30_000,
        },
      )
      .toBe(true)
  }
  await expect(over).toBeVisible()
  const { facts } = await get<{
    readonly facts: readonly { readonly setting: string; readonly standing: string; readonly text: string }[]
  }>(`/jobs/${id}/walk`)
  const verified = facts.filter(({ setting, standing }) => setting === 'address' && standing === 'verified')
  expect(verified.map(({ text }) => text)).toEqual(expect.arrayContaining(['10.20.40.30', '10.20.40.80']))
  console.log(`two boxes at factory addresses: ${actions} clicks, fields and keys`)
  expect(actions).toBeLessThanOrEqual(16)
})
