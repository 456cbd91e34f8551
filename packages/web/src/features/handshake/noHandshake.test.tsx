/** @jest-environment jsdom */
import { sampleDevice, sampleJob, sampleLine } from '@calm/core/job/fixtures'
import type { Job } from '@calm/core/job'
import { cleanup, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { Route, Routes, useLocation } from 'react-router'
import { likeABrowser, seriousIn } from '../../fixtures'
import { drawn, type Answers, type Asked } from '../../fixtures/drawn'
import { NoHandshake } from './noHandshake'

beforeAll(likeABrowser)
afterEach(cleanup)

const ids = { PLC: '11111111-1111-4111-8111-111111111111', EM: '22222222-2222-4222-8222-222222222222' }
const plc = sampleDevice('PLC-1', '10.20.40.10', { id: ids.PLC, kind: 'controller' })
const meter = sampleDevice('EM-1', '10.20.40.50', { id: ids.EM })

function Elsewhere() {
  const { pathname, state } = useLocation()
  return <p>{`${pathname.replace(/[0-9a-f-]{36}/, 'ID')} ${String(state)}`}</p>
}
const shown = (job: Job, answers?: Answers) =>
  drawn(
    <Routes>
      <Route path="/" element={<NoHandshake job={job} stage="Terms" />} />
      <Route path="*" element={<Elsewhere />} />
    </Routes>,
    { job, ...(answers && { answers }) },
  )
const firstOf = (asked: readonly Asked[]) =>
  (asked.find(({ method }) => method === 'POST')?.body as { readonly changes: readonly unknown[] }).changes[0]
const begin = () => userEvent.click(screen.getByRole('button', { name: 'Begin the handshake' }))

test.each<[string, Job, string]>([
  ['a controller', sampleJob({ devices: [meter] }), 'Add a controller in the line-up first.'],
  ['a device', sampleJob({ devices: [plc] }), 'Add a device for it in the line-up first.'],
])('without %s it says what to add, and where', (_what, job, sentence) => {
  const { container } = shown(job)
  expect(container.textContent).toContain(sentence)
  expect(screen.getByRole('link', { name: 'line-up' }).getAttribute('href')).toBe('/jobs/job/line-up')
  expect(screen.queryByRole('button')).toBeNull()
})

test('one press begins it with what the line-up knows, and goes to its terms', async () => {
  const { asked, container } = shown(sampleJob({ devices: [meter, plc] }))
  expect(await seriousIn(container)).toEqual([])
  await begin()
  expect(await screen.findByText('/jobs/job/terms/ID begun')).toBeTruthy()
  expect(firstOf(asked)).toMatchObject({
    ...{ op: 'add', table: 'handshake' },
    fields: { controllerId: ids.PLC, deviceId: ids.EM, exchange: 'modbus' },
  })
})

test('a device that sits on a bus and has no port is spoken to over the bus', async () => {
  const line = sampleLine({ id: 'F', name: 'bus', medium: 'field-bus', family: 'decimal-0-125', settings: '' })
  const onBus = {
    ...meter,
    ports: [],
    nodes: [{ id: 'n', lineId: 'F', node: 7, name: '', isMaster: false, version: 1 }],
  }
  const { asked } = shown(sampleJob({ lines: [line], devices: [plc, onBus] }))
  await begin()
  await screen.findByText('/jobs/job/terms/ID begun')
  expect(firstOf(asked)).toMatchObject({ fields: { deviceId: ids.EM, exchange: 'bus' } })
})

test('refused by the server, it is told and the page stays', async () => {
  shown(sampleJob({ devices: [plc, meter] }), ({ method }) => (method === 'POST' ? 409 : sampleJob()))
  await begin()
  await waitFor(() => expect(screen.getByRole('alert')).toBeTruthy())
  expect(screen.getByRole('heading', { name: 'Terms' })).toBeTruthy()
})
