/** @jest-environment jsdom */
import { act, cleanup } from '@testing-library/react'
import { drawn } from '../fixtures/drawn'
import { StreamProvider, useStream } from './stream'
import { useWalk } from './walk'

/** A stream of events whose other end is the test. */
class Line {
  static open: Line[] = []
  onerror: () => void = () => undefined
  readonly #heard = new Map<string, (event: { readonly data: string }) => void>()
  constructor(readonly url: string) {
    Line.open.push(this)
  }
  addEventListener(name: string, listener: (event: { readonly data: string }) => void) {
    this.#heard.set(name, listener)
  }
  close() {
    Line.open = Line.open.filter((each) => each !== this)
  }
  say(name: string, content: object) {
    return act(async () => this.#heard.get(name)?.({ data: JSON.stringify(content) }))
  }
  cut() {
    return act(async () => this.onerror())
  }
}
const line = () => {
  const [only, ...more] = Line.open
  if (!only || more.length > 0) throw new Error(`${Line.open.length} lines are open`)
  return only
}

beforeEach(() => {
  Line.open = []
  Object.assign(globalThis, { EventSource: Line })
})
afterEach(cleanup)

let watch: (handshakeId: string | undefined) => void
function Page() {
  const { state, watch: begin } = useStream()
  useWalk('job')
  watch = begin
  return <p role="status">{state}</p>
}
const shown = async () => {
  const view = drawn(
    <StreamProvider jobId="job">
      <Page />
    </StreamProvider>,
    { answers: () => ({ steps: [] }) },
  )
  const walksAsked = () => view.asked.filter(({ path }) => path === '/api/jobs/job/walk').length
  await line().say('hello', { revision: 1 })
  return { ...view, walksAsked }
}

test('a walk is fetched once, and again when the stream was cut: what a wait saw meanwhile stands in no log', async () => {
  const page = await shown()
  expect(page.getByRole('status').textContent).toBe('live')
  expect(page.walksAsked()).toBe(1)
  await line().cut()
  expect(page.getByRole('status').textContent).toBe('lost')
  expect(page.walksAsked()).toBe(1)
  await line().say('hello', { revision: 1 })
  expect(page.getByRole('status').textContent).toBe('live')
  expect(page.walksAsked()).toBe(2)
})

test('so it is where another handshake is watched: between two streams nobody listens', async () => {
  const page = await shown()
  await act(async () => watch('EM'))
  expect(line().url).toMatch(/live=EM$/)
  await line().say('hello', { revision: 1 })
  expect(page.walksAsked()).toBe(2)
})
