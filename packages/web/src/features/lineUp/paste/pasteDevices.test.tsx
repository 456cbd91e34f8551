/** @jest-environment jsdom */
import type { Change } from '@calm/core/changes'
import { sampleDevice, sampleJob, sampleNetwork } from '@calm/core/job/fixtures'
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { ProblemError } from '../../../api'
import { likeABrowser, seriousIn } from '../../../fixtures'
import { drawn } from '../../../fixtures/drawn'
import type { LineUp } from '../useLineUp'
import PasteDevices from './pasteDevices'

beforeAll(likeABrowser)
afterEach(() => {
  cleanup()
  localStorage.clear()
})

const job = sampleJob({
  networks: [sampleNetwork()],
  devices: [sampleDevice('EM-1', '10.20.40.50', { what: 'Energy meter' })],
})
function shown(send: (changes: readonly Change[]) => Promise<void> = () => Promise.resolve()) {
  const sent: (readonly Change[])[] = []
  const change = (_say: string, changes: readonly Change[]) => {
    sent.push(changes)
    return send(changes)
  }
  const closed = jest.fn()
  drawn(<PasteDevices job={job} lineUp={{ change } as unknown as LineUp} onClose={closed} />, { job })
  return { sent, closed }
}
const box = () => screen.getByLabelText<HTMLTextAreaElement>('Cells from a spreadsheet')
const paste = (...lines: readonly string[]) => fireEvent.change(box(), { target: { value: lines.join('\n') } })
const table = () => screen.getByRole('table', { name: 'What was pasted' })
const press = (name: string | RegExp) => userEvent.click(screen.getByRole('button', { name }))
const rowsOfTag = (changes: readonly Change[] = []) =>
  changes.flatMap((each) => (each.op === 'add' && each.table === 'device' ? [each.fields.tag] : []))

test('a head is matched, each row is read, and they are added together', async () => {
  const { sent, closed } = shown()
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Add 0 devices' }).disabled).toBe(true)
  paste('Tag\tDescription\tIP address', 'PD-1\tPump drive\t10.20.40.20', 'PD-2\tPump drive\t10.20.40.21')
  await waitFor(() => expect(within(table()).getAllByText('can be added')).toHaveLength(2))
  expect(await seriousIn(screen.getByRole('dialog'))).toEqual([])
  await press('Add 2 devices')
  expect(rowsOfTag(sent[0])).toEqual(['PD-1', 'PD-2'])
  expect(closed).toHaveBeenCalledTimes(1)
})

test('what cannot be read is told first, mended by one press, and only then added', async () => {
  const { sent, closed } = shown()
  paste('Tag\tIP address', 'PD-1\t10.20.40.20', 'PD-2\t10.20.40.1O')
  await waitFor(() => expect(within(table()).getByText('can be added')).toBeTruthy())
  const [, bad] = within(table()).getAllByRole('row')
  expect(bad?.textContent).toMatch(/^3/)
  expect(screen.getByRole('status').textContent).toContain('1 row cannot be read yet and stays here.')
  await press('Add 1 device')
  expect(rowsOfTag(sent[0])).toEqual(['PD-1'])
  // It stays open with the head and the row that is left.
  expect(closed).not.toHaveBeenCalled()
  expect(box().value).toBe('Tag\tIP address\nPD-2\t10.20.40.1O')
  // Pressed while the table still shows what was just added, the old text does not come back.
  await press('Use 10.20.40.10')
  expect(box().value).not.toContain('PD-1')
  await waitFor(() => expect(table().textContent).not.toContain('PD-1'))
  const again = screen.queryByRole('button', { name: 'Use 10.20.40.10' })
  if (again) await userEvent.click(again)
  await waitFor(() => expect(within(table()).getByText('can be added')).toBeTruthy())
  await press('Add 1 device')
  expect(rowsOfTag(sent[1])).toEqual(['PD-2'])
  expect(closed).toHaveBeenCalledTimes(1)
})

test('a tag that is here already is changed only when that is asked for', async () => {
  const { sent } = shown()
  paste('Tag\tDescription', 'EM-1\tSecond meter')
  const change = await screen.findByRole('checkbox', { name: 'Change the 1 that is here already' })
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Add 0 devices' }).disabled).toBe(true)
  await userEvent.click(change)
  await press('Add 0, change 1')
  expect(sent[0]).toEqual([
    expect.objectContaining({ op: 'set', table: 'device', id: 'EM-1', fields: { what: 'Second meter' } }),
  ])
})

test('without a column for the tag nothing can be added, and it says which is missing', async () => {
  shown()
  paste('colour\tplace', 'red\tleft')
  await userEvent.click(await screen.findByRole('combobox', { name: 'What column Column 1 holds' }))
  await userEvent.click(screen.getByRole('option', { name: 'left out' }))
  await waitFor(() => expect(screen.getByRole('status').textContent).toMatch(/Say which column is the tag\./))
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Add 0 devices' }).disabled).toBe(true)
})

test('what the server refuses is told, and everything that was pasted stays', async () => {
  const taken = { what: 'PD-1 is there already.', where: 'changes[0]', expected: 'a free tag', found: 'PD-1' }
  const { closed } = shown(() => Promise.reject(new ProblemError(422, [taken])))
  paste('Tag\tIP address', 'PD-1\t10.20.40.20')
  await waitFor(() => expect(within(table()).getByText('can be added')).toBeTruthy())
  await press('Add 1 device')
  expect((await screen.findByRole('alert')).textContent).toContain('PD-1 is there already.')
  expect(box().value).toContain('PD-1\t10.20.40.20')
  expect(closed).not.toHaveBeenCalled()
})
