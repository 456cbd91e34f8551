/** @jest-environment jsdom */
import type { LaptopState, Stop, WalkStep } from '@calm/core/procedure'
import { blankWalk } from '@calm/core/procedure'
import { sampleDevice, sampleJob } from '@calm/core/job/fixtures'
import { act, cleanup, render, screen, waitFor, fireEvent } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useWalkActs } from '../../../api'
import { likeABrowser, seriousIn } from '../../../fixtures'
import { drawn, type Answers } from '../../../fixtures/drawn'
import { LampDrawings } from './lampDrawing'
import { ReasonForm } from './reasonForm'
import { StepCard } from './stepCard'
import { StopList } from './stopList'
import { BETWEEN_LOOKS_MS, LOOKS } from './useSeenByItself'

beforeAll(likeABrowser)
afterEach(cleanup)

const job = sampleJob({ devices: [sampleDevice('PD-101', '10.20.40.21')] })
const stepOf = (step: Partial<WalkStep['step']>, more: Partial<WalkStep> = {}): WalkStep => ({
  key: 'set PD-101 1 / PD-101 x',
  stopKey: 'set PD-101 1',
  deviceId: 'PD-101',
  deviceIds: ['PD-101'],
  step: { id: 'x', phase: 'set', kind: 'do', say: 'Open the cover.', ...step },
  seconds: 0,
  blocks: false,
  record: undefined,
  ...more,
})
const stopOf = (steps: readonly WalkStep[], more: Partial<Stop> = {}): Stop => ({
  key: 'set PD-101 1',
  title: 'Set PD-101 to 10.20.40.21',
  reason: 'It counts after power off and on.',
  action: null,
  deviceIds: ['PD-101'],
  seconds: 180,
  steps,
  laptop: null,
  onDemand: null,
  state: 'ahead',
  held: null,
  ...more,
})

interface CardProps {
  readonly step: WalkStep
  readonly steps?: readonly WalkStep[]
  readonly isDue?: boolean
  readonly laptop?: LaptopState
}

function Card({ step, steps = [step], isDue = false, laptop }: CardProps) {
  const acts = useWalkActs('job')
  return (
    <StepCard job={job} record={blankWalk} stop={stopOf(steps)} step={step} isDue={isDue} laptop={laptop} acts={acts} />
  )
}
const shown = (step: WalkStep, answers?: Answers) => {
  const view = drawn(<Card step={step} />, { job, ...(answers && { answers }) })
  return { ...view, sent: () => view.asked.filter(({ method }) => method !== 'GET').map(({ body }) => body) }
}

describe('the step in hand', () => {
  test('says what to do, for whom, and is done by one key', async () => {
    const { container, sent } = shown(stepOf({ why: 'The switch is behind it.' }))
    expect(screen.getByRole('heading', { name: 'Open the cover.' })).toBeTruthy()
    expect(container.textContent).toContain('PD-101')
    expect(await seriousIn(container)).toEqual([])
    await userEvent.keyboard('y')
    await waitFor(() => expect(sent()).toMatchObject([{ state: 'done', note: '', seen: 0 }]))
  })

  test('a caution is a note of its own, and going on without it asks why', async () => {
    const { sent } = shown(stepOf({ kind: 'caution', say: 'A drive can start.', protects: 'people' }))
    expect(screen.getByRole('note').textContent).toContain('A drive can start.')
    await userEvent.click(screen.getByRole('button', { name: 'Go on without' }))
    await userEvent.click(screen.getByRole('button', { name: 'Override' }))
    expect(screen.getByRole('alert').textContent).toContain('Note is blank.')
    expect(sent()).toEqual([])
    await userEvent.type(screen.getByLabelText('In words'), 'Motor is uncoupled')
    await userEvent.click(screen.getByRole('button', { name: 'Override' }))
    await waitFor(() => expect(sent()).toMatchObject([{ state: 'overridden', note: 'Motor is uncoupled' }]))
  })

  test('what was read is typed into its field; R goes there, Enter records it', async () => {
    const { sent } = shown(stepOf({ kind: 'record', record: 'serial-number', say: 'Read its serial number.' }))
    await userEvent.keyboard('r')
    const field = screen.getByRole('textbox')
    expect(document.activeElement).toBe(field)
    await userEvent.keyboard('S4 7C11{Enter}')
    await waitFor(() => expect(sent()).toMatchObject([{ state: 'done', note: 'S4 7C11' }]))
  })

  test('a decision is taken by its words, with what follows from it', async () => {
    const choices = [
      { say: 'Fixed', then: 'The address is typed.' },
      { say: 'Lease', then: 'The server gives it.' },
    ]
    const { sent } = shown(stepOf({ kind: 'decide', say: 'Fixed or lease?', choices }))
    await userEvent.click(screen.getByRole('radio', { name: 'Lease' }))
    await userEvent.click(screen.getByRole('button', { name: /That it is/ }))
    await waitFor(() => expect(sent()).toMatchObject([{ state: 'done', note: 'Lease' }]))
  })

  test('the second press of a double click does nothing: it would land on the step that comes next', async () => {
    const { sent } = shown(stepOf({ kind: 'do', say: 'Press the button.' }))
    const button = screen.getByRole('button', { name: /^Done/ })
    // The first press was at the step before, and this one has come under the pointer since.
    fireEvent.click(button, { detail: 2 })
    await new Promise((done) => setTimeout(done, 50))
    expect(sent()).toEqual([])
    fireEvent.click(button, { detail: 1 })
    await waitFor(() => expect(sent()).toHaveLength(1))
  })

  test('cautions that stand together are read together, each is settled by itself', async () => {
    const two = ['a', 'b'].map((id) =>
      stepOf({ id, kind: 'caution', say: `Caution ${id}.`, protects: 'people' }, { key: `stop / ${id}` }),
    )
    const view = drawn(<Card step={two[0] as WalkStep} steps={[...two, stepOf({})]} />, { job })
    expect(screen.getAllByRole('note').map((note) => note.textContent)).toEqual(['Caution a.', 'Caution b.'])
    await userEvent.click(screen.getByRole('button', { name: /I have read both/ }))
    const sent = () => view.asked.filter(({ method }) => method === 'POST').map(({ body }) => body)
    await waitFor(() =>
      expect(sent()).toMatchObject([
        { stepKey: 'stop / a', state: 'done' },
        { stepKey: 'stop / b', state: 'done' },
      ]),
    )
  })

  test('what stands on one label is written down in one go; a field that is left blank stays open', async () => {
    const three = (['order-code', 'serial-number', 'mac'] as const).map((record) =>
      stepOf({ id: record, kind: 'record', record, say: `The ${record}.` }, { key: `stop / ${record}` }),
    )
    const view = drawn(<Card step={three[0] as WalkStep} steps={three} />, { job })
    await userEvent.type(screen.getByLabelText('Order code on its label'), 'VD-110')
    await userEvent.type(screen.getByLabelText('Hardware address, on its label'), '02:5E:0B:00:00:01')
    await userEvent.click(screen.getByRole('button', { name: /^Record/ }))
    const sent = () => view.asked.filter(({ method }) => method === 'POST').map(({ body }) => body)
    await waitFor(() =>
      expect(sent()).toMatchObject([
        { stepKey: 'stop / order-code', note: 'VD-110' },
        { stepKey: 'stop / mac', note: '02:5E:0B:00:00:01' },
      ]),
    )
  })

  test.each([
    ['the stop is due and the laptop in its subnet', true, '10.20.40.5', 1],
    ['somebody only looks ahead in the list', false, '10.20.40.5', 0],
    ['the laptop is elsewhere: silence would say nothing', true, '192.168.1.5', 0],
  ])('what only looks is looked at by itself: %s', async (_what, isDue, address, count) => {
    const laptop: LaptopState = {
      interfaces: [{ name: 'eth0', address, prefix: 24, link: true, loopback: false }],
    } as unknown as LaptopState
    const step = stepOf({ kind: 'check', check: 'reached-planned', say: 'It answers.' })
    const view = drawn(<Card step={step} isDue={isDue} laptop={laptop} />, { job })
    await act(() => new Promise((done) => setTimeout(done, 50)))
    expect(view.asked.filter(({ path }) => path.endsWith('/walk/check'))).toHaveLength(count)
  })

  test.each([
    ['is made again until it passes', 3, 3],
    ['is made so many times and no more', 99, LOOKS],
  ])('a look that finds nobody %s', async (_what, passesAt, count) => {
    jest.useFakeTimers()
    try {
      const laptop = {
        interfaces: [{ name: 'eth0', address: '10.20.40.5', prefix: 24, link: true, loopback: false }],
      } as unknown as LaptopState
      let looks = 0
      const answers: Answers = ({ path }) => {
        if (!path.endsWith('/walk/check')) return undefined
        looks += 1
        return { verdict: looks >= passesAt ? 'passed' : 'failed', say: 'Every port closed.', compared: 1, of: 1 }
      }
      const step = stepOf({ kind: 'check', check: 'reached-planned', say: 'It answers.' })
      drawn(<Card step={step} isDue laptop={laptop} />, { job, answers })
      const passes = () => act(() => jest.advanceTimersByTimeAsync(BETWEEN_LOOKS_MS))
      await passes()
      await passes()
      expect(looks).toBe(2)
      expect(screen.getByText(/^Look 2 of 5 found this/)).toBeTruthy()
      for (let turn = 0; turn < 2 * LOOKS; turn += 1) await passes()
      expect(looks).toBe(count)
      expect(screen.queryByText(/it is looked again by itself/)).toBeNull()
    } finally {
      jest.useRealTimers()
    }
  })

  test('what the server refuses is told at the step, and nothing counts as done', async () => {
    shown(stepOf({}), ({ method }) => (method === 'GET' ? undefined : 409))
    await userEvent.click(screen.getByRole('button', { name: /^Done/ }))
    expect((await screen.findByRole('alert')).textContent).toContain('409')
  })
})

test('something else is seen: the likeliest is one press, a word of one’s own is another', async () => {
  const said: string[] = []
  const offers = [{ saw: 'It is dark', likely: 'No supply.', check: 'See the fuse.' }]
  const { container } = render(
    <ReasonForm
      title="What do you see?"
      offers={offers}
      action="Record what I see"
      onSay={(text) => said.push(text)}
      onClose={() => undefined}
    />,
  )
  await userEvent.click(screen.getByRole('button', { name: 'It is dark' }))
  expect(screen.getByLabelText<HTMLInputElement>('In words').value).toBe('It is dark: No supply.')
  await userEvent.click(screen.getByRole('button', { name: 'Record what I see' }))
  expect(said).toEqual(['It is dark: No supply.'])
  expect(await seriousIn(container)).toEqual([])
})

test('stops are a list; the one in hand is marked, one that waits says for what', async () => {
  const chosen: string[] = []
  const held = { why: 'PD-102 would stand on its address.', help: [], leadsOf: [] } as unknown as Stop['held']
  const stops = [stopOf([]), stopOf([], { key: 'b', title: 'Put Q12 on: PD-102', held })]
  const { container } = render(<StopList stops={stops} chosen="b" onChoose={(key) => chosen.push(key)} />)
  const [first, second] = screen.getAllByRole('button')
  expect(second?.getAttribute('aria-current')).toBe('step')
  expect(second?.textContent).toContain('Waits. PD-102 would stand on its address.')
  await userEvent.click(first as HTMLElement)
  expect(chosen).toEqual(['set PD-101 1'])
  expect(await seriousIn(container)).toEqual([])
})

test('a lamp is told in words beside its drawing', () => {
  render(
    <LampDrawings
      lamps={[{ lamp: 'Net', pattern: { shape: 'steady', colour: 'green' }, means: 'Connected' }] as never}
    />,
  )
  expect(screen.getByRole('listitem').textContent).toMatch(/Net.*green.*: Connected/)
})
