/** @jest-environment jsdom */
import type { Job } from '@calm/core/job'
import { sampleDevice, sampleJob } from '@calm/core/job/fixtures'
import { act, cleanup, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useJob } from '../api'
import { drawn } from '../fixtures/drawn'
import { useEdit, type JobEdit } from './useEdit'

let next = 0
/** A job of its own for each test: what was done is kept by the job's id, beside the page. */
const jobNow = () => {
  next += 1
  return sampleJob({ id: `job-${next}`, devices: [sampleDevice('EM-1', null, { what: 'a' })] })
}
let edit: JobEdit
function Page({ id }: { id: string }) {
  const { data } = useJob(id)
  return data ? <Editing job={data} /> : null
}
function Editing({ job }: { job: Job }) {
  edit = useEdit(job)
  return (
    <>
      <output aria-label="what">{job.devices.map(({ what }) => what).join()}</output>
      <output aria-label="last">{edit.last?.say ?? 'nothing'}</output>
      <output aria-label="next">{edit.next?.say ?? 'nothing'}</output>
      <button onClick={() => edit.attempt(edit.undo())}>back</button>
      <button onClick={() => edit.attempt(edit.redo())}>forth</button>
      {edit.problem instanceof Error && <p role="alert">{edit.problem.message}</p>}
    </>
  )
}
const said = (label: string) => screen.getByLabelText(label).textContent
const press = (name: string) => userEvent.click(screen.getByRole('button', { name }))

/** The page with a server that holds each change until the test lets it go. */
function shown() {
  const job = jobNow()
  const view = drawn(<Page id={job.id} />, { job })
  const waiting: ((isTaken: boolean) => void)[] = []
  const bodies: unknown[] = []
  globalThis.fetch = ((_url: string, init: RequestInit = {}) => {
    if (init.method !== 'POST') {
      const found = { ok: true, status: 200, headers: { get: () => null } }
      return Promise.resolve({
        ...found,
        text: () => Promise.resolve(JSON.stringify(job)),
        json: () => Promise.resolve(job),
      })
    }
    bodies.push(JSON.parse(String(init.body)))
    return new Promise((done) =>
      waiting.push((isTaken) =>
        done({
          ...{ ok: isTaken, status: isTaken ? 204 : 409, headers: { get: () => null } },
          text: () => Promise.resolve(''),
          json: () => Promise.resolve({ problems: [] }),
        }),
      ),
    )
  }) as unknown as typeof fetch
  const answer = async (isTaken = true) => {
    await waitFor(() => expect(waiting.length).toBeGreaterThan(0))
    await act(async () => waiting.shift()?.(isTaken))
  }
  const put = (what: string) => {
    const [device] = edit.now().devices
    if (!device) throw new Error('device')
    act(() => edit.attempt(edit.set(`${what} put`, 'device', device, { what })))
  }
  return { ...view, job, bodies, answer, put }
}

beforeEach(() => jest.spyOn(console, 'error').mockImplementation(() => undefined))
afterEach(() => {
  cleanup()
  jest.restoreAllMocks()
})

test('a change stands on the screen before the server has said anything, and can be taken back once it has', async () => {
  const { put, answer } = shown()
  put('b')
  await waitFor(() => expect(said('what')).toBe('b'))
  expect(said('last')).toBe('nothing')
  await answer()
  await waitFor(() => expect(said('last')).toBe('b put'))
})

test('a step back that is pressed while a change is on its way takes back that one, not the one before', async () => {
  const { put, answer } = shown()
  put('b')
  await answer()
  await waitFor(() => expect(said('last')).toBe('b put'))
  put('c')
  await waitFor(() => expect(said('what')).toBe('c'))
  await press('back')
  await answer()
  await answer()
  await waitFor(() => expect(said('what')).toBe('b'))
  expect([said('last'), said('next')]).toEqual(['b put', 'c put'])
  await press('forth')
  await answer()
  await waitFor(() => expect(said('what')).toBe('c'))
  expect([said('last'), said('next')]).toEqual(['c put', 'nothing'])
})

test('what the server refuses is gone from the screen, is told, and is no step that could be taken back', async () => {
  const { put, answer } = shown()
  put('b')
  await waitFor(() => expect(said('what')).toBe('b'))
  await answer(false)
  await waitFor(() => expect(said('what')).toBe('a'))
  expect(said('last')).toBe('nothing')
  expect(await screen.findByRole('alert')).toBeTruthy()
})

test('a step whose row somebody else has taken away cannot be taken back: it says so and makes way for the one before', async () => {
  const { put, answer, client, job, bodies } = shown()
  put('b')
  await answer()
  await waitFor(() => expect(said('last')).toBe('b put'))
  act(() => void client.setQueryData(['job', job.id], { ...job, devices: [] }))
  await press('back')
  expect(await screen.findByRole('alert')).toBeTruthy()
  await waitFor(() => expect(said('last')).toBe('nothing'))
  expect(bodies).toHaveLength(1)
})

test('nothing to change sends nothing', async () => {
  const { bodies } = shown()
  await act(() => edit.change('nothing', []))
  expect(bodies).toEqual([])
  expect(said('last')).toBe('nothing')
})
