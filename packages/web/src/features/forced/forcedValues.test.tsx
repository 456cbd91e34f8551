/** @jest-environment jsdom */
import type { ForcedValue } from '@calm/core/job'
import { sampleJob } from '@calm/core/job/fixtures'
import { cleanup, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { likeABrowser, seriousIn } from '../../fixtures'
import { drawn, type Answers } from '../../fixtures/drawn'
import { ForcedValues } from './forcedValues'

beforeAll(likeABrowser)
afterEach(cleanup)

const forced = (where: string, more: Partial<ForcedValue> = {}): ForcedValue => ({
  ...{ id: where, version: 3, where, value: '20.0 %', who: 'R. Osei', at: 0, releasedBy: null, releasedAt: null },
  ...more,
})
const shown = (values: readonly ForcedValue[], answers?: Answers) => {
  const job = sampleJob({ forced: values })
  return drawn(<ForcedValues job={job} />, { job, ...(answers && { answers }) })
}
const writes = ({ asked }: ReturnType<typeof shown>) => asked.filter(({ method }) => method !== 'GET')
const press = (name: string) => userEvent.click(screen.getByRole('button', { name }))

test('what is held counts until it was seen released; what was released does not', async () => {
  const view = shown([forced('PD-101 speed'), forced('LS-11', { releasedAt: 5, releasedBy: 'M. Diaz' })])
  const section = screen.getByRole('region', { name: 'Forced values' })
  expect(section.textContent).toContain('PD-101 speed')
  expect(section.textContent).not.toContain('LS-11')
  expect(section.textContent).toContain('Hand-over stays shut while anything is forced.')
  expect(await seriousIn(view.container)).toEqual([])
})

test('nothing held says so, and that nothing is ever sent from here', () => {
  shown([])
  expect(screen.getByText(/Nothing is held by hand\. Nothing is sent from here/)).toBeTruthy()
  expect(screen.queryByRole('button', { name: 'Seen released' })).toBeNull()
})

test('seen released names the row and the version that was looked at', async () => {
  const view = shown([forced('PD-101 speed')])
  await press('Seen released')
  await waitFor(() => expect(writes(view)).toHaveLength(1))
  expect(writes(view)[0]).toMatchObject({ method: 'POST', body: { version: 3 } })
  expect(writes(view)[0]?.path).toBe('/api/forced/PD-101%20speed/release')
})

test('a release that was refused is told', async () => {
  shown([forced('PD-101 speed')], ({ method }) => (method === 'POST' ? 409 : undefined))
  await press('Seen released')
  expect(await screen.findByRole('alert')).toBeTruthy()
  expect(screen.getByText('PD-101 speed')).toBeTruthy()
})

describe('noting one', () => {
  test('both fields are asked for; what was typed stays, what is good is sent and the form closes', async () => {
    const view = shown([])
    await press('Note a forced value')
    await userEvent.type(screen.getByLabelText('What is held, and where'), 'Float switch LS-11')
    await press('Note it')
    await waitFor(() => expect(screen.getByLabelText('At which value').getAttribute('aria-invalid')).toBe('true'))
    expect(screen.getByLabelText<HTMLInputElement>('What is held, and where').value).toBe('Float switch LS-11')
    expect(writes(view)).toEqual([])
    await userEvent.type(screen.getByLabelText('At which value'), 'held on')
    await press('Note it')
    await waitFor(() => expect(screen.queryByLabelText('At which value')).toBeNull())
    expect(writes(view)[0]?.body).toEqual({ where: 'Float switch LS-11', value: 'held on' })
  })

  test('left alone, nothing is sent', async () => {
    const view = shown([])
    await press('Note a forced value')
    await userEvent.type(screen.getByLabelText('At which value'), '1')
    await press('Leave it')
    expect(screen.queryByLabelText('At which value')).toBeNull()
    expect(writes(view)).toEqual([])
  })

  test('refused by the server, the form stays open with what was typed', async () => {
    shown([], ({ method }) => (method === 'POST' ? 507 : undefined))
    await press('Note a forced value')
    await userEvent.type(screen.getByLabelText('What is held, and where'), 'LS-11')
    await userEvent.type(screen.getByLabelText('At which value'), 'on')
    await press('Note it')
    expect(await screen.findByRole('alert')).toBeTruthy()
    expect(screen.getByLabelText<HTMLInputElement>('At which value').value).toBe('on')
  })
})
