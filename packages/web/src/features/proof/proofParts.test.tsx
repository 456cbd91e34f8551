/** @jest-environment jsdom */
import { sampleDevice, sampleHandshake, sampleJob, samplePoint } from '@calm/core/job/fixtures'
import { ladderFor } from '@calm/core/job'
import { judgePath, type Observation } from '@calm/core/path'
import { instant } from '@calm/core/units'
import { cleanup, render, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { likeABrowser, seriousIn } from '../../fixtures'
import { drawn } from '../../fixtures/drawn'
import { Frames } from './frames'
import { Hop } from './hop'
import { PointDialog } from './pointDialog'
import { RungList } from './rungList'
import { Want } from './want'

beforeAll(likeABrowser)
afterEach(cleanup)

const field = (label: string | RegExp) => screen.getByLabelText<HTMLInputElement>(label)
const press = (name: string | RegExp) => userEvent.click(screen.getByRole('button', { name }))
const noteOf = (element: HTMLElement) =>
  document.getElementById(element.getAttribute('aria-describedby') ?? '')?.textContent ?? ''

test('bytes stand in pairs, so that a line never ends within one', () => {
  const reading = {
    asked: '10.20.40.50:502',
    mode: 'plant',
    servedAt: '',
    requestHex: '25070000000601040000 0002',
    responseHex: '',
  }
  const { container } = render(<Frames reading={reading as never} tag="EM-501" />)
  const lines = [...container.querySelectorAll('span')].map((each) => each.textContent)
  expect(lines).toEqual(['asked', '25 07 00 00 00 06 01 04 00 00 00 02', 'answer', 'none'])
})

describe('a hop', () => {
  const at = instant(Date.parse('2026-11-01T12:00:00Z'))
  const judged = (hops: readonly Observation[]) =>
    judgePath({
      hops,
      reference: 230.4,
      tolerance: { kind: 'absolute', amount: 1 },
      unit: 'V',
      format: undefined,
      scale: 1,
    }).hops
  const seen = (value: number | undefined, more: Partial<Observation> = {}): Observation => ({
    at: 'EM-501',
    value,
    words: [0x4366, 0xa549],
    source: 'live',
    seen: at,
    silence: '',
    ...more,
  })

  test('shows the words as they stand there and the value they make', async () => {
    const [hop] = judged([seen(230.6)])
    if (!hop) throw new Error('no hop')
    const { container } = render(
      <ol>
        <Hop hop={hop} where="from register 30001" unit="V" decimals={1} />
      </ol>,
    )
    const item = screen.getByRole('listitem')
    expect(item.dataset['state']).toBe('inside')
    expect([...item.querySelectorAll('[data-word]')].map((word) => word.textContent)).toEqual(['4366', 'A549'])
    expect(item.querySelector('[data-value]')?.textContent).toBe('230.6')
    expect(await seriousIn(container)).toEqual([])
  })

  test('without a value none is made up', () => {
    const [hop] = judged([seen(undefined, { words: undefined })])
    if (!hop) throw new Error('no hop')
    render(<Hop hop={hop} where="" unit="V" decimals={1} />)
    expect(document.querySelector('[data-value]')?.textContent).toBe('–')
    expect(document.body.textContent).not.toContain('V')
  })

  test('where it is read off, what cannot be a number is told while it is typed', async () => {
    const [hop] = judged([seen(undefined, { at: 'Pump house screen', words: undefined, source: 'typed' })])
    if (!hop) throw new Error('no hop')
    const typed: string[] = []
    render(
      <Hop
        hop={hop}
        where="as people see it"
        unit="V"
        decimals={1}
        typed={{ text: '230,x', at: 0 }}
        onType={(text) => typed.push(text)}
      />,
    )
    const box = field('What Pump house screen shows, in V')
    expect(box.getAttribute('aria-invalid')).toBe('true')
    expect(noteOf(box)).toContain('230,x')
    await userEvent.type(box, '1')
    expect(typed).toEqual(['230,x1'])
  })
})

describe('what it should be', () => {
  test('a reference that is no number is not taken; blank takes it away', async () => {
    const saved: unknown[] = []
    const point = samplePoint({ unit: 'V', reference: { value: 230.4, origin: 'multimeter' } })
    render(<Want point={point} onChange={(change) => Promise.resolve(saved.push(change))} />)
    await press(/^Reference value: 230\.4/)
    await userEvent.keyboard('high{Enter}')
    expect(saved).toEqual([])
    await userEvent.clear(field('Reference value'))
    await userEvent.keyboard('{Enter}')
    expect(saved).toEqual([{ reference: null }])
  })

  test('the tolerance of another kind asks for its own numbers, and refuses what is none', async () => {
    const saved: unknown[] = []
    render(<Want point={samplePoint()} onChange={(change) => Promise.resolve(saved.push(change))} />)
    await press(/1 V/)
    await userEvent.click(screen.getByRole('combobox', { name: 'Kind' }))
    await userEvent.click(screen.getByRole('option', { name: 'percent of a span' }))
    await userEvent.type(field('Percent'), 'half')
    await userEvent.type(field('Low end of the span'), '0')
    await userEvent.type(field('High end of the span'), '400')
    await press('Set')
    expect(saved).toEqual([])
    expect(noteOf(field('Percent'))).toContain('half')
    await userEvent.clear(field('Percent'))
    await userEvent.type(field('Percent'), '0.5')
    await press('Set')
    expect(saved).toEqual([{ tolerance: { kind: 'percent-of-span', percent: 0.5, low: 0, high: 400 } }])
  })
})

describe('what is read', () => {
  const shown = (onRemove?: () => void) => {
    const saved = jest.fn((_: unknown) => Promise.resolve())
    render(
      <PointDialog
        point={samplePoint()}
        controller="PLC"
        device="EM"
        onSave={saved}
        onRemove={onRemove}
        onClose={() => undefined}
      />,
    )
    return saved
  }

  test('registers that cannot be read stay with the reason, each at its field', async () => {
    const saved = shown()
    await userEvent.type(field('Register of EM'), '99999999')
    await userEvent.type(field('Register where PLC serves the tag'), 'x')
    await press('Save')
    expect(saved).not.toHaveBeenCalled()
    for (const label of ['Register of EM', 'Register where PLC serves the tag'])
      expect(field(label).getAttribute('aria-invalid')).toBe('true')
    expect(field('Register of EM').value).toBe('99999999')
  })

  test('where the device keeps it asks for type, order and scale only once a register is said', async () => {
    const saved = shown()
    expect(screen.queryByLabelText('Scale there')).toBeNull()
    await userEvent.type(field('Register of EM'), '30001')
    await userEvent.clear(field('Scale there'))
    await userEvent.type(field('Scale there'), '0.1')
    await userEvent.click(screen.getByRole('checkbox', { name: /Has to be proven/ }))
    await press('Save')
    expect(saved).toHaveBeenCalledWith(
      expect.objectContaining({
        asked: false,
        decimals: 1,
        served: null,
        source: { register: '30001', type: 'float32', order: 'ABCD', scale: 0.1 },
      }),
    )
  })

  test('decimals are a number; the last point cannot be removed', async () => {
    const saved = shown()
    await userEvent.clear(field('Decimals shown'))
    await userEvent.type(field('Decimals shown'), 'two')
    await press('Save')
    expect(saved).not.toHaveBeenCalled()
    expect(noteOf(field('Decimals shown'))).toMatch(/number/)
    expect(screen.queryByRole('button', { name: 'Remove this point' })).toBeNull()
  })
})

describe('the rungs', () => {
  const handshake = sampleHandshake('PLC', 'EM')
  const job = sampleJob({
    devices: [sampleDevice('PLC', '10.20.40.10'), sampleDevice('EM', '10.20.40.50')],
    handshakes: [handshake],
  })
  const shown = (answers?: (path: string) => unknown) =>
    drawn(<RungList job={job} handshake={handshake} ladder={ladderFor(job, handshake)} />, {
      job,
      answers: ({ path }) => answers?.(path),
    })
  const rung = (name: string) =>
    within(screen.getAllByRole('listitem').find((each) => each.dataset['rung'] === name) as HTMLElement)

  test('every rung is told with its state and what is missing', async () => {
    const { container } = shown()
    expect(screen.getByRole('heading', { name: /^Ladder: 0 of \d+ proven$/ })).toBeTruthy()
    expect(rung('safe').getByText('not started')).toBeTruthy()
    expect(await seriousIn(container)).toEqual([])
  })

  test('what can hurt is said before it is said to be seen; a blank is not evidence', async () => {
    const { asked } = shown()
    await userEvent.click(rung('safe').getByRole('button', { name: 'I saw' }))
    expect(rung('safe').getByRole('note').textContent).toMatch(/Isolate, lock and prove dead/)
    await userEvent.click(rung('safe').getByRole('button', { name: 'I see it' }))
    await userEvent.click(rung('safe').getByRole('button', { name: 'I don’t' }))
    expect(asked.filter(({ method }) => method === 'POST')).toEqual([])
    const seen = rung('safe').getByLabelText(/^What was seen/)
    expect(seen.getAttribute('aria-invalid')).toBe('true')
    await userEvent.type(seen, 'Q4 open and locked')
    await userEvent.click(rung('safe').getByRole('button', { name: 'I see it' }))
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'POST')).toMatchObject({
        path: `/api/handshakes/${handshake.id}/evidence`,
        body: { rung: 'safe', verdict: 'proven', how: 'seen', value: 'Q4 open and locked' },
      }),
    )
  })

  test('a decision needs its reason; taking one back needs none', async () => {
    const { asked } = shown()
    await userEvent.click(rung('writing').getByRole('button', { name: /^Park/ }))
    await userEvent.click(rung('writing').getByRole('button', { name: 'Decide' }))
    expect(rung('writing').getByLabelText('Reason').getAttribute('aria-invalid')).toBe('true')
    expect(asked.filter(({ method }) => method === 'POST')).toEqual([])
    await userEvent.click(rung('writing').getByRole('combobox', { name: 'Decision' }))
    await userEvent.click(screen.getByRole('option', { name: 'take the decision back' }))
    expect(rung('writing').queryByLabelText('Reason')).toBeNull()
    await userEvent.click(rung('writing').getByRole('button', { name: 'Decide' }))
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'POST')).toMatchObject({
        body: { rung: 'writing', state: 'none' },
      }),
    )
  })

  test('a server that refuses is heard, and the form stays', async () => {
    shown((path) => (path.includes('evidence') ? 500 : undefined))
    await userEvent.click(rung('powered').getByRole('button', { name: 'I saw' }))
    await userEvent.type(rung('powered').getByLabelText(/^What was seen/), 'PWR lamp steady')
    await userEvent.click(rung('powered').getByRole('button', { name: 'I see it' }))
    expect((await rung('powered').findByRole('alert')).textContent).toContain('500')
    expect(rung('powered').getByLabelText<HTMLInputElement>(/^What was seen/).value).toBe('PWR lamp steady')
  })
})
