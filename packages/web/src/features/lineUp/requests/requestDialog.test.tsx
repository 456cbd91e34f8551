/** @jest-environment jsdom */
import type { AskedOfOthers } from '@calm/core/job'
import { sampleDevice, sampleJob } from '@calm/core/job/fixtures'
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { likeABrowser, seriousIn } from '../../../fixtures'
import { drawn } from '../../../fixtures/drawn'
import type { LineUp } from '../useLineUp'
import RequestDialog from './requestDialog'
import { today } from './today'

beforeAll(likeABrowser)
afterEach(cleanup)

const idOf = (tag: string) => `11111111-1111-4111-8111-${tag.replace(/\D/g, '').padStart(12, '0')}`
const asked: AskedOfOthers = {
  ...{ id: 'r1', version: 4, about: 'range', what: 'Addresses of hall 2', toWhom: 'plant network' },
  ...{ askedOn: '2026-11-20', dueOn: null, deviceIds: [idOf('PD-1'), idOf('PD-10')], answer: '', answeredOn: null },
}
const job = sampleJob({
  devices: ['PD-1', 'PD-10', 'EM-2'].map((tag) => sampleDevice(tag, null, { id: idOf(tag) })),
  requests: [asked],
})
function shown(request?: AskedOfOthers, deviceIds: readonly string[] = []) {
  const made: unknown[][] = []
  const note = (...given: unknown[]) => {
    made.push(given)
    return Promise.resolve()
  }
  const lineUp = { change: note, addRow: note, removeRow: note, attempt: () => undefined } as unknown as LineUp
  const closed = jest.fn()
  drawn(<RequestDialog job={job} lineUp={lineUp} request={request} deviceIds={deviceIds} onClose={closed} />, { job })
  return { made, closed }
}
const field = (label: string) => screen.getByLabelText<HTMLInputElement>(label)
const press = (name: string) => userEvent.click(screen.getByRole('button', { name }))

test('without what is asked nothing is noted; with it, it is asked today for the chosen devices', async () => {
  const { made, closed } = shown(undefined, [idOf('EM-2')])
  expect(await seriousIn(screen.getByRole('dialog'))).toEqual([])
  await press('Save')
  await waitFor(() => expect(field('What is asked').getAttribute('aria-invalid')).toBe('true'))
  expect(made).toEqual([])
  await userEvent.type(field('What is asked'), 'A range for the drives')
  await userEvent.click(screen.getByRole('checkbox', { name: 'PD-1' }))
  await userEvent.click(screen.getByRole('checkbox', { name: 'EM-2' }))
  await press('Save')
  await waitFor(() => expect(closed).toHaveBeenCalledTimes(1))
  expect(made[0]?.slice(1)).toEqual([
    'request',
    expect.objectContaining({ askedOn: today(), dueOn: null, deviceIds: [idOf('PD-1')], answer: '', answeredOn: null }),
  ])
})

test('whom to ask follows from what kind of thing it is', async () => {
  shown()
  const before = field('Of whom').value
  await userEvent.click(screen.getByRole('combobox', { name: 'What kind of thing' }))
  await userEvent.click(screen.getByRole('option', { name: /order code/i }))
  expect(field('Of whom').value).not.toBe(before)
  expect(field('Of whom').value).not.toBe('')
})

test('an answer is shared out by the tags in it, the longer one first, and is dated', async () => {
  const { made, closed } = shown(asked)
  fireEvent.change(field('The answer, as it came'), {
    target: { value: 'Hello,\nPD-10: 10.20.40.30\npd-1 10.20.40.21\nPD-100 10.20.40.99' },
  })
  const shares = within(await screen.findByRole('list', { name: 'Who gets what' })).getAllByRole('listitem')
  expect(shares.map(({ textContent }) => textContent)).toEqual(['PD-10 10.20.40.30', 'PD-1 10.20.40.21'])
  await press('Save the answer')
  await waitFor(() => expect(closed).toHaveBeenCalledTimes(1))
  expect(made[0]?.[1]).toEqual([
    expect.objectContaining({
      ...{ op: 'set', table: 'request', id: 'r1', version: 4 },
      fields: expect.objectContaining({ answeredOn: today(), askedOn: '2026-11-20' }),
    }),
  ])
})

test('a request is removed by the row and the version that was looked at', async () => {
  const { made, closed } = shown(asked)
  await press('Remove the request')
  expect(made[0]?.slice(1)).toEqual(['request', asked])
  expect(closed).toHaveBeenCalledTimes(1)
})
