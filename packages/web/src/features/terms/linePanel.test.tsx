/** @jest-environment jsdom */
import type { Job } from '@calm/core/job'
import { sampleDevice, sampleHandshake, sampleJob, sampleLine, samplePoint, sampleTerms } from '@calm/core/job/fixtures'
import { cleanup, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { likeABrowser, seriousIn } from '../../fixtures'
import { drawn } from '../../fixtures/drawn'
import { LinePanel } from './linePanel'

jest.mock('./cycleChart', () => ({ drawCycle: () => () => undefined }))

beforeAll(likeABrowser)
afterEach(cleanup)

const node = { id: 'n', lineId: 'L', node: 3, name: '', isMaster: false, version: 1 }
function jobWith(settings: string): Job {
  return sampleJob({
    devices: [
      sampleDevice('PLC', '10.20.40.10'),
      sampleDevice('GW', '10.20.40.40'),
      sampleDevice('FM', null, { ports: [], unitId: 3, behindId: 'GW', nodes: [node] }),
    ],
    lines: [sampleLine({ id: 'L', name: 'Meter line', settings })],
    handshakes: [
      sampleHandshake('PLC', 'FM', {
        points: [samplePoint({ source: null })],
        terms: [
          ...sampleTerms('function-code', '03'),
          ...sampleTerms('first-register', '40011'),
          ...sampleTerms('count', '10'),
          ...sampleTerms('data-type', 'uint16'),
          ...sampleTerms('word-order', 'ABCD'),
        ],
      }),
    ],
  })
}
const shown = (job: Job, handshake = job.handshakes[0]) => {
  if (!handshake) throw new Error('no handshake')
  return drawn(<LinePanel job={job} handshake={handshake} />, { job })
}

test('what the line costs in time, as its terms stand', async () => {
  const { container } = shown(jobWith('9600 8N1'))
  // Ten registers: 33 bytes of 10 bits at 9 600 bit/s.
  expect(screen.getByText(/8 bytes asked, 25 answered: 34.4 ms on the wire, 51.7 ms/)).toBeTruthy()
  expect(screen.getByText('One stop bit without parity.')).toBeTruthy()
  expect(screen.getByText(/51.7 ms while all answer; 2.02 s while 1 is silent/)).toBeTruthy()
  expect(await seriousIn(container)).toEqual([])
})

test('what is taken can be changed; what is no number is told, and the figures stay as they were', async () => {
  shown(jobWith('9600 8E1'))
  const retries = screen.getByLabelText<HTMLInputElement>('Tries after the first')
  await userEvent.clear(retries)
  await userEvent.type(retries, '3')
  expect(screen.getByText(/4.04 s while 1 is silent/)).toBeTruthy()
  await userEvent.clear(retries)
  await userEvent.type(retries, 'few')
  expect(screen.getByRole('alert').textContent).toContain('Tries after the first must be a whole number from 0 to 10')
  expect(retries.value).toBe('few')
  expect(screen.getByText(/4.04 s while 1 is silent/)).toBeTruthy()
})

test('two schools on tries: what they cost with a silent unit, and what they mend', async () => {
  shown(jobWith('9600 8N1'))
  const rows = () =>
    screen
      .getAllByRole('row')
      .slice(1)
      .map((row) => row.textContent)
  // A dead unit costs its question of 8 bytes and 1 s for every try.
  expect(rows()).toEqual([
    expect.stringMatching(/ ms1\.01 s/),
    expect.stringMatching(/^1.* ms2\.02 s/),
    expect.stringMatching(/^2.* ms3\.0\d s/),
    expect.stringMatching(/^3.* ms4\.03 s/),
  ])
  await userEvent.clear(screen.getByLabelText('Its value older than, ms'))
  expect(rows()).toEqual([])
  await userEvent.type(screen.getByLabelText('Its value older than, ms'), '60')
  expect(rows()).toHaveLength(4)
  expect(rows()[0]).toMatch(/% of the time$/)
})

test('settings that nobody can read: no figure, what is expected, and the likely reading in one press', async () => {
  const job = jobWith('9601 8N1')
  const view = shown(job)
  expect(screen.getByRole('alert').textContent).toContain('9601 bit/s is nearly 9600')
  expect(screen.queryByText(/on the wire/)).toBeNull()
  await userEvent.click(screen.getByRole('button', { name: 'Use 9600 8N1' }))
  await waitFor(() =>
    expect(view.asked.filter(({ method }) => method === 'POST').map(({ body }) => body)).toMatchObject([
      { changes: [{ op: 'set', table: 'line', id: 'L', fields: { settings: '9600 8N1' } }] },
    ]),
  )
})

test('a device with an address of its own has no line', () => {
  const job = jobWith('9600 8N1')
  const { container } = shown(job, sampleHandshake('PLC', 'GW', {}))
  expect(container.textContent).toBe('')
})
