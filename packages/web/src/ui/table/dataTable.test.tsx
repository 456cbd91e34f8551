/** @jest-environment jsdom */
import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { likeABrowser, seriousIn } from '../../fixtures'
import { DataTable, Person, type TableColumn } from '.'
import { readLayout } from './remembered'

interface Meter {
  readonly tag: string
  readonly flow: number
  readonly place: string
}
const meters: readonly Meter[] = [
  { tag: 'FM-2', flow: 9, place: 'intake' },
  { tag: 'FM-10', flow: 100, place: 'return' },
  { tag: 'FM-1', flow: 12.5, place: 'raceway' },
]
const columns: readonly TableColumn<Meter>[] = [
  { id: 'tag', head: 'Tag', names: true, width: 90, cell: ({ tag }) => tag, sort: ({ tag }) => tag },
  { id: 'flow', head: 'Flow', cell: ({ flow }) => flow, sort: ({ flow }) => flow },
  { id: 'place', head: 'Place', cell: ({ place }) => place },
]

const shown = (person = 'R. Osei') =>
  render(
    <Person.Provider value={person}>
      <DataTable name="meters" caption="Meters" columns={columns} rows={meters} keyOf={({ tag }) => tag} />
    </Person.Provider>,
  )
const tags = () => screen.getAllByRole('rowheader').map((each) => each.textContent)
const heads = () => screen.getAllByRole('columnheader', { hidden: true }).map((each) => each.textContent)
const menu = async () => {
  await userEvent.click(screen.getByRole('button', { name: 'Columns: Meters' }))
  return screen.getByRole('menu')
}

beforeAll(likeABrowser)
beforeEach(() => {
  localStorage.clear()
  // jsdom lays nothing out: every column stands 100 px wide.
  Object.defineProperty(HTMLElement.prototype, 'offsetWidth', { configurable: true, value: 100 })
})
afterEach(cleanup)

describe('rows', () => {
  test('stand in the order they came in; the one that names a row is its head', async () => {
    const { container } = shown()
    expect(tags()).toEqual(['FM-2', 'FM-10', 'FM-1'])
    expect(screen.getByRole('table', { name: 'Meters' })).toBeTruthy()
    expect(await seriousIn(container)).toEqual([])
  })

  test('a press on a head sorts, a second one the other way, a third gives back the order they came in', async () => {
    shown()
    const head = screen.getByRole('columnheader', { name: /Flow/ })
    const seen = [head.getAttribute('aria-sort')]
    const orders = []
    for (let press = 0; press < 3; press += 1) {
      await userEvent.click(within(head).getByRole('button'))
      orders.push(tags().join(' '))
      seen.push(head.getAttribute('aria-sort'))
    }
    expect(new Set(orders)).toEqual(new Set(['FM-2 FM-1 FM-10', 'FM-10 FM-1 FM-2', 'FM-2 FM-10 FM-1']))
    expect(new Set(seen)).toEqual(new Set(['none', 'ascending', 'descending']))
    expect(orders[2]).toBe('FM-2 FM-10 FM-1')
  })

  test('numbers within a text are sorted as numbers', async () => {
    shown()
    const head = screen.getByRole('columnheader', { name: /Tag/ })
    await userEvent.click(within(head).getByRole('button'))
    const up = head.getAttribute('aria-sort') === 'ascending'
    expect(tags()).toEqual(up ? ['FM-1', 'FM-2', 'FM-10'] : ['FM-10', 'FM-2', 'FM-1'])
  })

  test('a column without an order of its own is no button', () => {
    shown()
    const place = screen.getByRole('columnheader', { name: /Place/ })
    expect(within(place).queryByRole('button', { name: 'Place' })).toBeNull()
    expect(place.getAttribute('aria-sort')).toBeNull()
  })
})

describe('columns', () => {
  const widths = (container: Element) =>
    [...container.querySelectorAll('col')].map((each) => each.style.width || 'its share')

  test('are hidden and brought back by the menu; the one that names the row cannot be', async () => {
    shown()
    const list = await menu()
    expect(within(list).queryByRole('menuitemcheckbox', { name: 'Tag' })).toBeNull()
    await userEvent.click(within(list).getByRole('menuitemcheckbox', { name: 'Flow' }))
    expect(heads()).toEqual(['Tag', 'Place'])
    await userEvent.click(within(list).getByRole('menuitemcheckbox', { name: 'Flow' }))
    expect(heads()).toEqual(['Tag', 'Flow', 'Place'])
  })

  test('Alt with an arrow moves the edge of the one at hand, never beyond where it could be taken hold of', async () => {
    const { container } = shown()
    const sort = within(screen.getByRole('columnheader', { name: /Flow/ })).getByRole('button')
    act(() => sort.focus())
    await userEvent.keyboard('{Alt>}{ArrowRight}{/Alt}')
    expect(widths(container)).toEqual(['100px', '116px', 'its share'])
    for (let k = 0; k < 9; k += 1) await userEvent.keyboard('{Alt>}{ArrowLeft}{/Alt}')
    // Each step goes from how wide it stands, which jsdom always says is 100.
    expect(widths(container)).toEqual(['100px', '84px', 'its share'])
  })

  test('an edge that is dragged takes its column along; what is right of it is the last one’s', () => {
    const { container } = shown()
    const edge = screen.getByRole('columnheader', { name: /Flow/ }).querySelector('[aria-hidden].cursor-col-resize')
    expect(edge).not.toBeNull()
    fireEvent.mouseDown(edge as Element, { clientX: 200 })
    fireEvent.mouseMove(document, { clientX: 260 })
    fireEvent.mouseUp(document, { clientX: 260 })
    expect(widths(container)).toEqual(['100px', '160px', 'its share'])
    expect(screen.getByRole('columnheader', { name: /Place/ }).querySelector('.cursor-col-resize')).toBeNull()
  })

  test('stay as somebody has set them up, for that person only', async () => {
    shown()
    await userEvent.click(within(await menu()).getByRole('menuitemcheckbox', { name: 'Place' }))
    cleanup()
    shown()
    expect(heads()).toEqual(['Tag', 'Flow'])
    cleanup()
    shown('M. Ito')
    expect(heads()).toEqual(['Tag', 'Flow', 'Place'])
  })

  test('go back to how they were made in one step', async () => {
    const { container } = shown()
    expect(within(await menu()).queryByRole('menuitem', { name: 'As they were made' })).toBeNull()
    await userEvent.click(screen.getByRole('menuitemcheckbox', { name: 'Flow' }))
    await userEvent.click(screen.getByRole('menuitem', { name: 'As they were made' }))
    expect(heads()).toEqual(['Tag', 'Flow', 'Place'])
    expect(widths(container)).toEqual(['90px', 'its share', 'its share'])
  })
})

describe('what was remembered', () => {
  test.each([
    [null, {}, {}],
    ['not JSON', {}, {}],
    ['[]', {}, {}],
    [
      '{"widths":{"tag":5,"flow":120,"place":"wide"},"shown":{"flow":false,"tag":"no"}}',
      { flow: 120 },
      { flow: false },
    ],
    ['{"widths":{"tag":99999},"shown":null}', {}, {}],
  ])('%s is read as far as it makes sense', (text, widths, visible) =>
    expect(readLayout(text)).toEqual({ widths, shown: visible }),
  )
})
