/** @jest-environment jsdom */
import type { Finding } from '@calm/core/findings'
import { sampleDevice, sampleJob, sampleLine } from '@calm/core/job/fixtures'
import { matchColumns, readDeviceRows } from '@calm/core/lineUp'
import { cleanup, render, screen, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { likeABrowser, seriousIn } from '../../fixtures'
import { FindingView } from './findings'
import { NodeTape, TapeDrawing, tapeOf } from './tape'
import { deviceColumns } from '@calm/core/lineUp'
import { PastedTable } from '../../pasted'

beforeAll(likeABrowser)
afterEach(cleanup)

describe('the ruler of addresses', () => {
  const job = sampleJob({
    devices: [
      sampleDevice('PLC-1', '10.20.40.10'),
      sampleDevice('EM-1', '10.20.40.60'),
      sampleDevice('EM-2', '10.20.40.60'),
    ],
  })
  const shown = () => {
    const picked: string[] = []
    const tape = tapeOf(job, 'process', 0)
    if (!tape) throw new Error('no tape')
    const drawing = render(<TapeDrawing tape={tape} onPick={(id) => picked.push(id)} />)
    return { picked, ...drawing }
  }

  test('is told in one sentence: who sits where, what is wanted twice, how much is free', async () => {
    const { container } = shown()
    const label = screen.getByRole('group').getAttribute('aria-label') ?? ''
    expect(label).toMatch(/^Addresses 10\.20\.40\.0 to 10\.20\.40\.255\./)
    expect(label).toContain('Wanted twice: 60')
    expect(label).toMatch(/\d+ free\.$/)
    expect(await seriousIn(container)).toEqual([])
  })

  test('by keys: from address to address, on to the next that is somebody’s, Enter picks the device', async () => {
    const { picked } = shown()
    await userEvent.tab()
    const cursor = screen.getByRole('slider', { name: 'Address' })
    const says = () => cursor.getAttribute('aria-valuetext')
    await userEvent.keyboard('{ArrowUp}')
    expect(says()).toBe('10.20.40.10: planned for PLC-1')
    await userEvent.keyboard('{ArrowRight}')
    expect(says()).toBe('10.20.40.11: free')
    await userEvent.keyboard('{ArrowUp}')
    expect(says()).toBe('10.20.40.60: wanted twice, by EM-1 and EM-2')
    await userEvent.keyboard('{Enter}')
    expect(picked).toEqual(['EM-1'])
    await userEvent.keyboard('{End}')
    expect(says()).toMatch(/^10\.20\.40\.255/)
    await userEvent.keyboard('{Home}{ArrowDown}')
    expect(says()).toMatch(/^10\.20\.40\.0/)
  })

  test('by mouse: the mark of a device picks it', async () => {
    const { picked, container } = shown()
    const mark = container.querySelector('[data-tip*="PLC-1"]')
    await userEvent.click(mark as Element)
    expect(picked).toEqual(['PLC-1'])
  })
})

describe('the nodes of a line', () => {
  const on = (tag: string, node: number | null, isMaster = false) =>
    sampleDevice(tag, null, {
      ports: [],
      nodes: [{ id: `${tag}-node`, lineId: 'L', name: '', node, isMaster, version: 1 }],
    })

  test('each is told with who sits there; two on one node are told so', async () => {
    const picked: string[] = []
    const line = sampleLine({ family: 'octal-0-77' })
    const job = sampleJob({
      lines: [line],
      devices: [on('TB-1', 6, true), on('PD-1', 8), on('PD-2', 8), on('PD-3', null)],
    })
    const { container } = render(<NodeTape job={job} line={line} onPick={(id) => picked.push(id)} />)
    expect(within(screen.getByRole('list')).getAllByRole('listitem')).toHaveLength(64)
    expect(screen.getByRole('button', { name: /TB-1, master$/ })).toBeTruthy()
    // Octal 10 is node 8.
    await userEvent.click(screen.getByRole('button', { name: /^10 .*PD-1 and PD-2, wanted twice$/ }))
    expect(picked).toEqual(['PD-1'])
    expect(container.textContent).toContain('On the line without a node: PD-3.')
    expect(await seriousIn(container)).toEqual([])
  })
})

describe('a finding', () => {
  const finding = {
    rule: 'address-twice',
    severity: 'will-not-work',
    title: 'Two devices, one address',
    why: 'EM-1 and EM-2 are headed for 10.20.40.60.',
    source: 'RFC 5227 1',
    subject: { kind: 'port', id: 'EM-1-port' },
    others: [],
    found: '10.20.40.60',
    fixes: [
      { label: 'Move EM-2 to 10.20.40.61', sideEffect: 'Changes the plan only.', edits: [] },
      { label: 'Move EM-1 to 10.20.40.61', sideEffect: 'Changes the plan only.', edits: [] },
    ],
  } as unknown as Finding

  test('the first way out is the one to take, with its side effect beside it', async () => {
    const fixed: string[] = []
    const { container } = render(
      <FindingView finding={finding} onFix={({ label }) => fixed.push(label)} onAccept={() => undefined} />,
    )
    expect(screen.getByText('Will not work')).toBeTruthy()
    expect(container.textContent).toContain('Changes the plan only.')
    await userEvent.click(screen.getByRole('button', { name: 'Move EM-2 to 10.20.40.61' }))
    expect(fixed).toEqual(['Move EM-2 to 10.20.40.61'])
    expect(await seriousIn(container)).toEqual([])
  })

  test('it may stand, but not without a reason; Escape takes the question back', async () => {
    const reasons: string[] = []
    render(<FindingView finding={finding} onFix={() => undefined} onAccept={(reason) => reasons.push(reason)} />)
    const letStand = () => userEvent.click(screen.getByRole('button', { name: 'Let it stand' }))
    await letStand()
    await userEvent.keyboard('no')
    await letStand()
    expect(reasons).toEqual([])
    expect(screen.getByRole('alert').textContent).toMatch(/3/)
    await userEvent.keyboard(' spare on the shelf')
    await letStand()
    expect(reasons).toEqual(['no spare on the shelf'])
    await userEvent.click(screen.getByRole('textbox'))
    await userEvent.keyboard('{Escape}')
    expect(screen.queryByRole('textbox')).toBeNull()
  })
})

describe('what was pasted', () => {
  const rows = [
    ['Tag', 'IP', 'Colour'],
    ['EM-1', '10.20.40.50', 'spare'],
    ['EM-2', '10.20.40.300', ''],
  ]
  const shown = () => {
    const { match, hasHead } = matchColumns(rows)
    const readings = readDeviceRows(rows, match, hasHead, sampleJob(), false)
    const said: unknown[] = []
    render(
      <PastedTable
        columns={deviceColumns}
        say={() => 'can be added'}
        rows={rows}
        match={match}
        hasHead={hasHead}
        readings={readings}
        onMend={(...mend) => said.push(mend)}
        onColumn={(...column) => said.push(column)}
      />,
    )
    return said
  }

  test('rows with trouble come first, each with its reason', () => {
    shown()
    const [, first, second] = screen.getAllByRole('row')
    expect(first?.textContent).toMatch(/^3.*300/)
    expect(second?.textContent).toMatch(/^2 can be added/)
  })

  test('over each column stands what it was taken for; another can be said', async () => {
    const said = shown()
    const remark = screen.getByRole('combobox', { name: 'What column Colour holds' })
    expect(remark.textContent).toBe('left out')
    await userEvent.click(remark)
    await userEvent.click(screen.getByRole('option', { name: 'Note' }))
    expect(said).toEqual([[2, 'note']])
  })
})
