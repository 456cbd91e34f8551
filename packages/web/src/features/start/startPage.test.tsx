/** @jest-environment jsdom */
import type { JobSummary } from '@calm/contract/api'
import { rungs } from '@calm/core/ladder'
import { act, cleanup, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { Route, Routes, useLocation } from 'react-router'
import { likeABrowser, seriousIn } from '../../fixtures'
import { drawn, type Answers } from '../../fixtures/drawn'
import { StartPage } from './startPage'

beforeAll(likeABrowser)
afterEach(cleanup)

const summary = (more: Partial<JobSummary> = {}): JobSummary => ({
  id: 'mill',
  name: 'Heron Mill',
  place: 'pump house',
  mode: 'bench',
  deviceCount: 10,
  handshakeCount: 2,
  provenCount: 3,
  neededCount: 18,
  ladder: rungs.map(({ id, name }) => ({ rung: id, name, proven: 0, atOdds: 0, needed: 2 })),
  next: { say: 'Reached next: PLC to EM.', stage: 'proof' },
  workedOn: Date.now() - 3 * 3_600_000,
  ...more,
})

function Elsewhere() {
  return <p>at {useLocation().pathname}</p>
}
async function shown(jobs: readonly JobSummary[], more: Answers = () => undefined) {
  const answers: Answers = (asked) => (asked.method === 'GET' && asked.path === '/api/jobs' ? jobs : more(asked))
  const view = drawn(
    <Routes>
      <Route path="/" element={<StartPage />} />
      <Route path="*" element={<Elsewhere />} />
    </Routes>,
    { answers },
  )
  await screen.findByRole('heading', { name: 'Calm Handshake' })
  return view
}
const problem = (what: string, where: string) => ({ what, where, expected: 'a job file', found: 'something else' })

describe('the list of jobs', () => {
  test('a job says how far it is, what is next and when it was last worked on; each leads there', async () => {
    const view = await shown([summary(), summary({ id: 'new', name: 'New', handshakeCount: 0, neededCount: 0 })])
    const [mill, fresh] = await screen.findAllByRole('listitem')
    if (!mill || !fresh) throw new Error('two jobs')
    expect(mill.textContent).toContain('3 of 18 rungs')
    expect(mill.textContent).toContain('3 hours ago')
    expect(
      within(mill)
        .getByRole('link', { name: /Heron Mill/ })
        .getAttribute('href'),
    ).toBe('/jobs/mill/line-up')
    expect(
      within(mill)
        .getByRole('link', { name: /Reached next/ })
        .getAttribute('href'),
    ).toBe('/jobs/mill/proof')
    // Without a handshake there is no rung to count.
    expect(fresh.textContent).toContain('10 devices, no handshake')
    expect(await seriousIn(view.container)).toEqual([])
  })

  test('an empty list says what to do', async () => {
    await shown([])
    expect(await screen.findByText(/There is no job yet\. Begin one below/)).toBeTruthy()
  })

  test('removed by one press, and brought back by the next', async () => {
    const { asked } = await shown([summary()])
    await userEvent.click(await screen.findByRole('button', { name: 'Remove Heron Mill' }))
    expect((await screen.findByRole('status')).textContent).toContain('Heron Mill removed.')
    await userEvent.click(screen.getByRole('button', { name: 'Undo' }))
    await waitFor(() => expect(screen.queryByRole('status')).toBeNull())
    expect(asked.filter(({ method }) => method !== 'GET').map(({ method, path }) => `${method} ${path}`)).toEqual([
      'DELETE /api/jobs/mill',
      'POST /api/jobs/mill/restore',
    ])
  })

  test('what could not be removed is told, and nothing says that it was', async () => {
    await shown([summary()], () => 507)
    await userEvent.click(await screen.findByRole('button', { name: 'Remove Heron Mill' }))
    expect(await screen.findByRole('alert')).toBeTruthy()
    expect(screen.queryByText('Heron Mill removed.')).toBeNull()
  })

  test('without a passcode the page asks for one, and for nothing else', async () => {
    drawn(<StartPage />, { answers: () => 401 })
    expect(await screen.findByRole('heading', { name: 'Passcode' })).toBeTruthy()
    expect(screen.getByLabelText<HTMLInputElement>('Passcode').type).toBe('password')
    expect(screen.queryByRole('button', { name: 'Begin' })).toBeNull()
  })
})

describe('an empty job', () => {
  test('without a name it is not begun; with one it opens at its line-up', async () => {
    const { asked } = await shown([], ({ path }) => (path === '/api/jobs' ? { id: 'j1' } : undefined))
    await userEvent.type(screen.getByLabelText('Place'), 'hall 2')
    await userEvent.click(screen.getByRole('button', { name: 'Begin' }))
    await waitFor(() => expect(screen.getByLabelText('Name').getAttribute('aria-invalid')).toBe('true'))
    expect(screen.getByLabelText<HTMLInputElement>('Place').value).toBe('hall 2')
    expect(asked.some(({ method }) => method === 'POST')).toBe(false)
    await userEvent.type(screen.getByLabelText('Name'), ' Boiler house ')
    await userEvent.click(screen.getByRole('button', { name: 'Begin' }))
    expect(await screen.findByText('at /jobs/j1/line-up')).toBeTruthy()
    expect(asked.find(({ method }) => method === 'POST')?.body).toEqual({
      ...{ name: 'Boiler house', place: 'hall 2', mode: 'bench' },
    })
  })
})

describe('a job file', () => {
  const take = async (file: File) => userEvent.upload(screen.getByLabelText('Job file'), file)
  const fileOf = (text: string, name = 'mill.job.json') => {
    const file = new File([text], name, { type: 'application/json' })
    // jsdom has no reading of files by promise.
    return Object.assign(file, { text: () => Promise.resolve(text) })
  }

  test('a good one opens as a new job', async () => {
    const { asked } = await shown([], ({ path }) => (path === '/api/jobs/import' ? { id: 'taken' } : undefined))
    await take(fileOf('{"kind":"job"}'))
    expect(await screen.findByText('at /jobs/taken/line-up')).toBeTruthy()
    expect(asked.find(({ path }) => path === '/api/jobs/import')?.body).toEqual({ kind: 'job' })
  })

  test('a wrong one is named, and that nothing has changed; a second one begins anew', async () => {
    let isGood = false
    await shown([], () => (isGood ? { id: 'taken' } : 422))
    await take(fileOf('{}', 'wrong.json'))
    expect(await screen.findByText('wrong.json was not taken in. Nothing has changed.')).toBeTruthy()
    expect(screen.getByRole('alert')).toBeTruthy()
    isGood = true
    await take(fileOf('{}', 'right.json'))
    expect(await screen.findByText('at /jobs/taken/line-up')).toBeTruthy()
  })

  test('one that is too large is refused before it is read, with its size', async () => {
    const { asked } = await shown([])
    const large = fileOf('{}', 'large.json')
    Object.defineProperty(large, 'size', { value: 25 * 1024 * 1024 })
    await take(large)
    expect((await screen.findByRole('alert')).textContent).toContain('The file is too large: 25.0 MB.')
    expect(asked.some(({ path }) => path === '/api/jobs/import')).toBe(false)
  })

  test('every problem of a refused one stands there with its place', async () => {
    await shown([])
    const problems = [problem('The field "name" is missing.', 'name'), problem('Two have this id.', 'devices[3].id')]
    globalThis.fetch = (() =>
      Promise.resolve({
        ...{ ok: false, status: 422, headers: { get: () => null } },
        text: () => Promise.resolve(JSON.stringify({ problems })),
        json: () => Promise.resolve({ problems }),
      })) as unknown as typeof fetch
    await act(() => take(fileOf('{}')))
    const told = (await screen.findByRole('alert')).textContent
    for (const { what, where } of problems) {
      expect(told).toContain(what)
      expect(told).toContain(where)
    }
  })
})
