import { expect, test, type Page } from './test'
import { randomUUID } from 'node:crypto'
import { startApp, talk, type RunningApp } from './app'
import { addToRehearsal, rehearsal, rows } from './jobParts'

let app: RunningApp
test.beforeAll(async () => {
  app = await startApp()
})
test.afterAll(() => app.end())

const talking = talk(() => app)

const MODULES = ['DI-16/24', 'DI-16/24', 'DO-08/R', 'AI-04/I', 'AO-02/U', 'PS-05'] as const

/** The rehearsal with a rack of six modules more, and nothing else to walk. */
async function rackOfSix(): Promise<string> {
  const job = await rehearsal(talking)
  const network = job.networks.find(({ cidr }) => cidr === '10.20.40.0/24')?.id ?? ''
  const [head, line] = [randomUUID(), randomUUID()]
  const modules = MODULES.map((orderCode, k) => ({ id: randomUUID(), tag: `M-${k + 1}`, orderCode, slot: k + 1 }))
  const controller = { tag: 'PLC-900', kind: 'rack-controller', isolation: 'Q90', asFound: '192.168.1.90' }
  return addToRehearsal(
    talking,
    [
      rows.device(head, controller),
      rows.port(head, network, '10.20.40.90'),
      rows.line(line, { name: 'Rack 1', medium: 'backplane', family: 'decimal-0-63' }),
      rows.node(head, line, 0, true),
      ...modules.flatMap(({ id, tag, orderCode, slot }) => [
        rows.device(id, { position: 100 + slot, tag, kind: 'analog-io', behindId: head, orderCode }),
        rows.node(id, line, slot),
      ]),
    ],
    [...job.devices, ...modules].map((device) => device.id),
  )
}

const step = (page: Page) => page.getByRole('region', { name: 'The step in hand' })

test('a rack of six modules: two lists are pasted, exchanged modules are named, the letters that differ are marked', async ({
  page,
}) => {
  const id = await rackOfSix()
  await page.goto(`${app.url}/jobs/${id}/first-contact`)
  await page.getByRole('button', { name: 'Begin the walk' }).click()
  await step(page)
    .getByRole('button', { name: /I have read/ })
    .click()
  await page.getByRole('button', { name: /All as drawn/ }).click()
  await page.getByLabel('Order code on its label').fill('CP-4')
  await page.getByLabel('Serial number').fill('S4 1001')
  await step(page)
    .getByRole('button', { name: /^Record/ })
    .click()
  // The controller's own code is not in the parts list: that is said and settled with a reason.
  await expect(step(page)).toContainText('The order code of PLC-900 is that of the parts list')
  await page.keyboard.press('n')
  await page.getByLabel('In words').fill('not in the parts list')
  await page.keyboard.press('Enter')

  await expect(step(page)).toContainText('Each slot of PLC-900 holds what the project has there')
  const rack = step(page).getByRole('table', { name: 'Rack of PLC-900' })
  await expect(rack.getByRole('row')).toHaveCount(8)
  // With nothing to compare it is not passed.
  await step(page)
    .getByRole('button', { name: /Check now/ })
    .click()
  await expect(step(page).getByRole('status')).toHaveAttribute('data-verdict', 'not-conclusive')

  const list = step(page).getByLabel(/List of modules/)
  const lines = (codes: readonly string[]) => codes.map((code, k) => `${k}\t${code}`).join('\n')
  // A line that cannot be: nothing of the list is taken, and it stays in the box.
  await list.fill(`Slot\tOrder code\n${lines(['CP-4', ...MODULES])}\n9\tXX-1`)
  await step(page).getByRole('button', { name: 'The project has these' }).click()
  await expect(step(page).getByRole('alert')).toContainText('Line 9: slot 9 is not planned in this rack.')
  await expect(list).toHaveValue(/9\tXX-1/)
  await expect(rack).not.toContainText('DO-08/R DO-08/R')
  await list.fill(`Slot\tOrder code\n${lines(['CP-4', ...MODULES])}`)
  await step(page).getByRole('button', { name: 'The project has these' }).click()
  await expect(list).toHaveValue('')

  // On the rack two are exchanged, and one is of another option.
  await list.fill(lines(['CP-4', 'DI-16/24', 'DO-08/R', 'DI-16/24', 'AI-04/U', 'AO-02/U', 'PS-05']))
  await step(page).getByRole('button', { name: 'The labels say these' }).click()
  await expect(list).toHaveValue('')
  await expect(rack.locator('mark', { hasText: 'U' }).first()).toBeVisible()
  await step(page)
    .getByRole('button', { name: /Check now/ })
    .click()
  await expect(step(page).getByRole('status')).toContainText('Slot 2 and slot 3 are exchanged: M-2 and M-3.')
  await expect(step(page).getByRole('status')).toContainText('Slot 4, M-4')
  await expect(step(page).getByRole('status')).toHaveAttribute('data-verdict', 'failed')

  await list.fill(lines(['CP-4', ...MODULES]))
  await step(page).getByRole('button', { name: 'The labels say these' }).click()
  await expect(rack.locator('mark')).toHaveCount(0)
  await step(page)
    .getByRole('button', { name: /Check now/ })
    .click()
  await expect(
    page.getByRole('region', { name: 'Steps of this stop' }).getByText('7 slots hold what the project has there.'),
  ).toBeVisible()
})
