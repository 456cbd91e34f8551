import { expect, test, type Page } from './test'
import { choose, startApp, talk, type RunningApp } from './app'
import { rehearsalOf } from './jobParts'

let app: RunningApp
test.beforeAll(async () => {
  app = await startApp()
})
test.afterAll(() => app.end())

const api = talk(() => app)
const { get, send } = api

/** The rehearsal with one box to walk, of which nobody knows where it is; it has power and has started. */
const lostBox = () =>
  rehearsalOf(app, api, { tags: ['RIO-111'], changed: { tag: 'RIO-111', fields: { asFound: '' } }, isLive: true })

const step = (page: Page) => page.getByRole('region', { name: 'The step in hand' })
const says = (page: Page, text: string | RegExp) => expect(step(page)).toContainText(text, { timeout: 15_000 })

test('a box in a foreign subnet is heard, taken in, reached, and brought to its planned address', async ({ page }) => {
  const id = await lostBox()
  let actions = 0
  const act = async (what: Promise<void>) => {
    actions += 1
    await what
  }
  await page.goto(`${app.url}/jobs/${id}/first-contact?view=find`)
  const section = page.getByRole('region', { name: 'Who shows itself' })
  await act(section.getByRole('button', { name: 'Listen', exact: true }).click())
  await expect(section.getByRole('progressbar')).toBeVisible()
  await expect(section.getByText(/Who announces its address by ARP: not heard/)).toBeVisible()
  const heard = section.getByRole('list', { name: 'Heard' }).getByRole('listitem')
  await expect(heard.filter({ hasText: '192.168.66.30' })).toHaveCount(0)
  // It gets power now: it is rung for by itself when it has started, without anybody looking.
  await send('POST', '/bench-fronts/RIO-111', { act: 'power', on: true })
  await expect(page.locator('[data-toast]')).toContainText('Heard: 192.168.66.30, RH-8D2A4Q, 2.3', { timeout: 15_000 })
  await act(page.getByRole('button', { name: 'Seen' }).click())
  const card = heard.filter({ hasText: '192.168.66.30' })
  await expect(card).toContainText('The laptop is in no subnet of it: it is heard, not reached')
  await act(choose(card.getByLabel(/Which device 192\.168\.66\.30 is/), 'RIO-111'))
  await expect(card).toContainText('Taken in: RIO-111 was found at 192.168.66.30.')
  await act(card.getByRole('button', { name: 'Put the laptop there' }).click())
  await act(card.getByRole('button', { name: /Set the bench laptop to 192\.168\.66\./ }).click())
  await expect(card.getByText('The laptop is in no subnet of it')).toHaveCount(0)
  await expect(card.getByRole('link', { name: 'Open its page' })).toHaveAttribute('href', /^http:\/\/127\./)
  // Which box it is, from the hit in one action: its plug is pulled, and it is seen to go silent.
  await card.getByRole('button', { name: 'Which box is it' }).click()
  const which = page.getByRole('region', { name: 'Which box is it' })
  await which.getByRole('button', { name: /Watch|watch/ }).click()
  await expect(which).toContainText('Pull the plug of RIO-111 now')
  await send('POST', '/bench-fronts/RIO-111', { act: 'plug', on: false })
  await expect(which).toContainText('It is RIO-111: plug pulled, 192.168.66.30 went silent', { timeout: 15_000 })
  await send('POST', '/bench-fronts/RIO-111', { act: 'plug', on: true })
  await act(section.getByRole('button', { name: 'Stop listening' }).click())
  await expect(section.getByRole('status')).toContainText(/Listened \d+ s, asked \d+ times/)

  await act(page.getByRole('tab', { name: 'Walk' }).click())
  await act(page.getByRole('button', { name: 'Begin the walk' }).click())
  const press = (name: RegExp) => act(step(page).getByRole('button', { name }).click())
  // The laptop is there, and it answers there: both were looked at by themselves.
  await says(page, 'The next step writes to RIO-111')
  await press(/I have read it/)
  await says(page, 'address 10.20.40.30')
  const { fronts } = await get<{ readonly fronts: readonly { readonly tag: string; readonly page: string | null }[] }>(
    '/bench-fronts',
  )
  const written = await fetch(fronts.find(({ tag }) => tag === 'RIO-111')?.page ?? '', {
    method: 'POST',
    body: new URLSearchParams({ address: '10.20.40.30', mask: '255.255.255.0', gateway: '10.20.40.1' }).toString(),
  })
  expect(await written.text()).toContain('Written')
  await press(/^Done/)
  await expect(page.getByRole('heading', { name: /Laptop|laptop/ })).toBeVisible({ timeout: 15_000 })
  const text = await step(page).innerText()
  await send('PUT', '/bench-laptop', {
    addresses: [{ address: /wired adapter: ([\d.]+)\//.exec(text)?.[1] ?? '10.20.40.5', prefix: 24 }],
    cable: 'switch',
    speed: 100,
  })
  await expect(page.getByRole('region', { name: 'RIO-111' })).toContainText('Verified10.20.40.30', { timeout: 20_000 })
  console.log(`a box in a foreign subnet, from listening to verified: ${actions} clicks, fields and keys`)
})

test('by keyboard, in a job without any network: who is heard becomes a device; nobody else is asked', async ({
  page,
}) => {
  await send('POST', '/jobs', { name: 'Nothing known', place: '', mode: 'bench' })
  const jobs = await get<readonly { readonly id: string; readonly name: string }[]>('/jobs')
  const id = jobs.find(({ name }) => name === 'Nothing known')?.id ?? ''
  await send('POST', '/bench-fronts/RCU-301', { act: 'power', on: true })
  await page.goto(`${app.url}/jobs/${id}/first-contact?view=find`)
  await page.getByRole('button', { name: 'Listen', exact: true }).press('Enter')
  const card = page.getByRole('list', { name: 'Heard' }).getByRole('listitem').filter({ hasText: '10.20.40.70' })
  await expect(card).toContainText('RC-4')
  await card.getByRole('button', { name: 'Add it to the line-up' }).press('Enter')
  await expect(card.getByRole('button', { name: 'Add it to the line-up' })).toHaveCount(0)
  await page.getByRole('button', { name: 'Stop listening' }).press('Enter')
  await expect(page.getByRole('button', { name: 'Listen', exact: true })).toBeVisible()
  const { devices } = await get<{ readonly devices: readonly { readonly what: string }[] }>(`/jobs/${id}`)
  expect(devices.map(({ what }) => what).join()).toContain('RC-4')
})
