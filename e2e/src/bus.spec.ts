import { randomUUID } from 'node:crypto'
import { expect, test, type Page } from './test'
import { startApp, talk, type RunningApp } from './app'
import { addToRehearsal, rehearsal, rows } from './jobParts'

let app: RunningApp
test.beforeAll(async () => {
  app = await startApp()
})
test.afterAll(() => app.end())
const talking = talk(() => app)

/** A controller that asks three axes on a bus, in the rehearsal; everything else is left out. */
async function busOfThree(): Promise<string> {
  const job = await rehearsal(talking)
  const [line, head] = [randomUUID(), randomUUID()]
  const axes = [1, 2, 3].map((number) => ({ id: randomUUID(), number }))
  return addToRehearsal(
    talking,
    [
      rows.line(line, { name: 'Motion bus', medium: 'rs-485-two-wire', family: 'decimal-1-247' }),
      rows.device(head, { tag: 'MC-201', kind: 'controller', isolation: 'Q20', asFound: '10.20.40.12' }),
      rows.port(head, job.networks[0]?.id ?? '', '10.20.40.12'),
      rows.node(head, line, null, true),
      ...axes.flatMap(({ id, number }) => [
        rows.device(id, { position: 90 + number, tag: `AX-${number}`, kind: 'servo', behindId: head }),
        rows.node(id, line, number),
      ]),
    ],
    job.devices.map((device) => device.id),
  )
}

const step = (page: Page) => page.getByRole('region', { name: 'The step in hand' })
const stop = (page: Page, title: RegExp) =>
  page.getByRole('list', { name: 'Stops of the walk' }).getByRole('button', { name: title }).first()
const verdict = (page: Page) => step(page).getByRole('status')
/** What cannot be looked at in this job is settled with a reason. */
const without = async (page: Page, reason: string) => {
  await page.keyboard.press('n')
  await page.getByLabel('In words').fill(reason)
  await page.keyboard.press('Enter')
}

test('a bus with a master: searched once, listed against the plan; then what the controller sees', async ({ page }) => {
  const id = await busOfThree()
  await page.goto(`${app.url}/jobs/${id}/first-contact`)
  await page.getByRole('button', { name: 'Begin the walk' }).click()
  await expect(page.locator('[data-walk]')).toBeVisible()
  await stop(page, /A row of 3 behind MC-201/).click()
  await expect(step(page)).toContainText('what it is reached through answers')
  await without(page, 'no controller on this bench')
  await expect(step(page)).toContainText('once for all of them')
  await step(page).getByRole('button', { name: /^Done/ }).click()

  const table = step(page).getByRole('table', { name: 'Nodes, planned and listed' })
  await expect(table.getByRole('row')).toHaveCount(4)
  await step(page)
    .getByRole('button', { name: /Check now/ })
    .click()
  await expect(verdict(page)).toHaveAttribute('data-verdict', 'not-conclusive')
  const list = step(page).getByLabel(/List of the search/)
  const take = step(page).getByRole('button', { name: 'Take the list in and compare' })
  // Two exchanged, and one more: told while it is typed, and by the check.
  await list.fill('Node\tName\n1\tAX-2\n2\tAX-1\n3\tAX-3\n9\tspare')
  await expect(table).toContainText('Node 1 is listed as AX-2; planned is AX-1.')
  await expect(table).toContainText('Node 9 is listed and not planned.')
  await take.click()
  await expect(verdict(page)).toHaveAttribute('data-verdict', 'failed')
  await expect(verdict(page)).toContainText('4 of 4 compared')
  // Searched again, the list of before says nothing.
  await page
    .getByRole('region', { name: 'Steps of this stop' })
    .locator('li', { hasText: 'once for all of them' })
    .getByRole('button', { name: 'Take back' })
    .click()
  await expect(step(page)).toContainText('once for all of them')
  await step(page).getByRole('button', { name: /^Done/ }).click()
  await step(page)
    .getByRole('button', { name: /Check now/ })
    .click()
  await expect(verdict(page)).toHaveAttribute('data-verdict', 'not-conclusive')
  await list.fill('1\tax_1\n2\tAX 2\n3\taxis')
  await take.click()

  await stop(page, /Last: MC-201/).click()
  await expect(step(page)).toContainText('What MC-201 talks to is verified')
  await step(page)
    .getByRole('button', { name: /Check now/ })
    .click()
  await expect(step(page)).toContainText('A download stops the controller')
  await step(page)
    .getByRole('button', { name: /I have read it/ })
    .click()
  await step(page).getByRole('button', { name: /^Done/ }).click()
  await expect(step(page)).toContainText('lists what MC-201 sees')
  const seen = step(page).getByLabel(/List of its devices/)
  await seen.fill('AX-1\tok\nAX-2\tfault 21')
  await take.click()
  await expect(verdict(page)).toContainText('It sees 1 of 3. AX-2 is at fault there: fault 21. Not listed: AX-3.')
  await seen.fill('AX-1\tok\nAX-2\tok\nAX-3\tok')
  await take.click()
  await expect(step(page)).toContainText('A second look at the lamps of MC-201')
})
