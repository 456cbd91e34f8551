/** @jest-environment jsdom */
import { sampleDevice, sampleJob } from '@calm/core/job/fixtures'
import { cleanup, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { likeABrowser } from '../../../fixtures'
import { drawn } from '../../../fixtures/drawn'
import { SweepTable } from './sweepTable'

beforeAll(likeABrowser)
afterEach(cleanup)

const job = sampleJob({ devices: [sampleDevice('PD-101', '10.20.40.21')] })

test('who answered and nobody planned becomes a device in one step; nobody is told as such', async () => {
  const answer = { address: '10.20.40.77', ports: [502], identities: ['Sample maker, EM'], hardwareAddress: null }
  const lines = [{ address: '10.20.40.77', verdict: 'unknown', tags: [], answer }] as const
  const { asked, again } = drawn(<SweepTable job={job} lines={lines} />, { job })
  expect(screen.getByRole('row', { name: /10\.20\.40\.77.*nobody planned it/ })).toBeTruthy()
  await userEvent.click(screen.getByRole('button', { name: 'Take 1 device into the line-up' }))
  await waitFor(() => expect(asked.some(({ path }) => path.endsWith('/changes'))).toBe(true))
  again(<SweepTable job={job} lines={[]} />)
  expect(screen.getByText('Nobody answered, and nobody is planned there.')).toBeTruthy()
})
