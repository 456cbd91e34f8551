/** @jest-environment jsdom */
import { sampleDevice, sampleHandshake, sampleJob } from '@calm/core/job/fixtures'
import { cleanup, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { Route, Routes, useLocation } from 'react-router'
import { likeABrowser, seriousIn } from '../fixtures'
import { drawn } from '../fixtures/drawn'
import FindBox from './findBox'
import type { StageOnWalk } from './stages'

beforeAll(likeABrowser)
afterEach(cleanup)

const job = sampleJob({
  devices: [
    sampleDevice('PLC-1', '10.20.40.10', { kind: 'controller', what: 'Compact controller' }),
    sampleDevice('EM-1', '10.20.40.50', { what: 'Energy meter' }),
    sampleDevice('EM-2', '10.20.40.51', { what: 'Energy meter' }),
  ],
  handshakes: [
    sampleHandshake('PLC-1', 'EM-1', { id: 'first', name: 'PLC-1 to EM' }),
    sampleHandshake('PLC-1', 'EM-2', { id: 'second', name: 'PLC-1 to EM' }),
  ],
})
const stages = [{ name: 'Hand-over', path: 'hand-over', key: '6' }] as unknown as readonly StageOnWalk[]

function Place() {
  const { pathname, search } = useLocation()
  return <output>{pathname + search}</output>
}
const shown = () => {
  const closed = jest.fn()
  drawn(
    <>
      <FindBox job={job} stages={stages} onClose={closed} />
      <Routes>
        <Route path="*" element={<Place />} />
      </Routes>
    </>,
    { job },
  )
  return closed
}
const place = () => document.querySelector('output')?.textContent
const search = (text: string) => userEvent.type(screen.getByRole('combobox'), text)
const chosen = () => screen.getAllByRole('option').filter((each) => each.getAttribute('aria-selected') === 'true')

test('an address finds its device, and Enter goes there', async () => {
  const closed = shown()
  await search('40.51')
  expect(screen.getAllByRole('option')[0]?.textContent).toContain('EM-2')
  expect(await seriousIn(screen.getByRole('dialog'))).toEqual([])
  await userEvent.keyboard('{Enter}')
  expect(place()).toBe('/jobs/job/line-up?device=EM-2')
  expect(closed).toHaveBeenCalledTimes(1)
})

test('a stage is found by its name, a setting by what stands in it', async () => {
  shown()
  await search('hand-over')
  await userEvent.keyboard('{Enter}')
  expect(place()).toBe('/jobs/job/hand-over')
})

test('of two handshakes of one name each is chosen by itself, and leads to its own', async () => {
  shown()
  await search('PLC-1 to EM proof')
  expect(chosen()).toHaveLength(1)
  await userEvent.keyboard('{ArrowDown}{Enter}')
  expect(place()).toBe('/jobs/job/proof/second')
})

test('what nobody has is said; nothing of an id is searched', async () => {
  shown()
  await search('second')
  expect(screen.getByText('Nothing of that name in this job.')).toBeTruthy()
})

test('Escape closes it and goes nowhere', async () => {
  const closed = shown()
  await search('EM-1')
  await userEvent.keyboard('{Escape}')
  expect(closed).toHaveBeenCalledTimes(1)
  expect(place()).toBe('/')
})
