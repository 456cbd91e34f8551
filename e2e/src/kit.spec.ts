import { expect, test } from './test'
import { startApp, talk, type RunningApp } from './app'

let app: RunningApp
test.beforeAll(async () => {
  app = await startApp()
})
test.afterAll(() => app.end())
const { get } = talk(() => app)

test.describe('on a phone', () => {
  test.use({ ownWindow: true, viewport: { width: 390, height: 844 }, hasTouch: true })

  test('the kit is computed from the job, ticked, and still ticked elsewhere; a password is never asked for', async ({
    page,
  }) => {
    const jobs = await get<readonly { readonly id: string; readonly name: string }[]>('/jobs')
    const id = jobs.find(({ name }) => name.includes('rehearsal'))?.id ?? ''
    await page.goto(`${app.url}/jobs/${id}/first-contact?view=kit`)
    const leads = page.getByRole('region', { name: 'Leads and adapters' })
    await expect(leads.getByText(/Serial adapter RS-232/)).toBeVisible()
    await expect(leads).toContainText('Scanner line')
    await expect(leads).toContainText('The serial lead that belongs to it, for "Console"')
    await expect(page.getByRole('region', { name: 'For safe work' })).toContainText('Q11')
    // On paper there is the list and the job's name, and nothing of the page around it.
    await page.emulateMedia({ media: 'print' })
    await expect(page.getByText('First contact rehearsal, pump house panel')).toBeVisible()
    await expect(page.getByRole('navigation', { name: 'The walk' })).toBeHidden()
    await expect(page.getByRole('tab')).toHaveCount(0)
    await page.emulateMedia({ media: 'screen' })
    const status = page.getByRole('status').filter({ hasText: 'packed' })
    await expect(status).toContainText(/^0 of \d+ packed/)
    const lead = leads.getByRole('checkbox', { name: /Two network leads/ })
    await leads.getByText(/Two network leads/).tap()
    await expect(lead).toBeChecked()
    await expect(status).toContainText(/^1 of \d+ packed/)
    const held = page.getByRole('region', { name: 'Passwords' })
    await held.getByLabel('RIO-111').fill('M. Diaz')
    await held.getByLabel('RIO-111').press('Enter')
    await expect
      .poll(async () => {
        const walk = await get<{ readonly facts: readonly { readonly setting: string; readonly text: string }[] }>(
          `/jobs/${id}/walk`,
        )
        return walk.facts.find(({ setting }) => setting === 'password held by')?.text
      })
      .toBe('M. Diaz')
    expect(await page.evaluate('document.documentElement.scrollWidth')).toBeLessThanOrEqual(390)
    await page.reload()
    await expect(lead).toBeChecked()
    await expect(held.getByLabel('RIO-111')).toHaveValue('M. Diaz')
  })
})
