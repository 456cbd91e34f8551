/** @jest-environment jsdom */
import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { likeABrowser, seriousIn } from '../fixtures'
import { Button, button, Dialog, Menu, MenuCheck, MenuDownload, MenuGroup, MenuItem, tip, Tips, tipWhenCut } from '.'
import { Toast, Toasts } from './toast'

beforeAll(likeABrowser)
afterEach(() => {
  cleanup()
  jest.useRealTimers()
})

describe('a button', () => {
  test('never sends a form unless it says so', async () => {
    const sent = jest.fn((event: React.FormEvent) => event.preventDefault())
    render(
      <form onSubmit={sent}>
        <Button>Propose</Button>
        <Button type="submit" look="act">
          Save
        </Button>
      </form>,
    )
    await userEvent.click(screen.getByRole('button', { name: 'Propose' }))
    expect(sent).not.toHaveBeenCalled()
    await userEvent.click(screen.getByRole('button', { name: 'Save' }))
    expect(sent).toHaveBeenCalledTimes(1)
  })

  test('what is said of it at its place wins over its look', () => {
    render(<Button className="px-0">Tag</Button>)
    const { classList } = screen.getByRole('button')
    expect(classList.contains('px-0')).toBe(true)
    expect(classList.contains('px-3')).toBe(false)
    expect(button({ look: 'act' })).toContain('bg-act')
  })
})

describe('a dialog', () => {
  test('with a form: its first field has the focus, so that who opened it types at once', () => {
    render(
      <Dialog title="Add a device" open onClose={() => undefined}>
        <input type="file" aria-label="File" />
        <input aria-label="Tag" />
      </Dialog>,
    )
    expect(document.activeElement).toBe(screen.getByLabelText('Tag'))
  })
})

describe('a menu', () => {
  function Shown({ done }: { done: string[] }) {
    return (
      <Menu trigger={<Button look="icon" aria-label="More" />}>
        <MenuItem onSelect={() => done.push('paste')}>Paste</MenuItem>
        <MenuCheck checked={false} onChange={(on) => done.push(`ladder ${on}`)}>
          Ladder
        </MenuCheck>
        <MenuGroup label="As a table">
          <MenuDownload href="/devices.csv">CSV</MenuDownload>
        </MenuGroup>
      </Menu>
    )
  }

  test('opens by Enter, goes by arrows, and closes with what was taken', async () => {
    const done: string[] = []
    render(<Shown done={done} />)
    await userEvent.tab()
    await userEvent.keyboard('{Enter}')
    const menu = screen.getByRole('menu')
    expect(await seriousIn(menu)).toEqual([])
    await userEvent.keyboard('{Enter}')
    expect(done).toEqual(['paste'])
    expect(screen.queryByRole('menu')).toBeNull()
  })

  test('stays open while several things are ticked', async () => {
    const done: string[] = []
    render(<Shown done={done} />)
    await userEvent.click(screen.getByRole('button', { name: 'More' }))
    await userEvent.click(screen.getByRole('menuitemcheckbox', { name: 'Ladder' }))
    expect(done).toEqual(['ladder true'])
    expect(screen.getByRole('menu')).toBeTruthy()
  })

  test('a file is a link, in a group that is named', async () => {
    render(<Shown done={[]} />)
    await userEvent.click(screen.getByRole('button', { name: 'More' }))
    const item = screen.getByRole('menuitem', { name: 'CSV' })
    expect(item.getAttribute('href')).toBe('/devices.csv')
    expect(screen.getByText('As a table')).toBeTruthy()
  })
})

describe('the one tooltip of the page', () => {
  const shown = () => screen.queryByRole('tooltip')?.textContent
  const page = (cut: boolean) => {
    render(
      <Tips>
        <button type="button" {...tip('Take the last step back')}>
          Undo
        </button>
        <button type="button" {...tipWhenCut('Hybrid inverter, battery')}>
          Hybrid inv…
        </button>
      </Tips>,
    )
    const text = screen.getByText('Hybrid inv…')
    Object.defineProperty(text, 'scrollWidth', { value: cut ? 160 : 80 })
    Object.defineProperty(text, 'clientWidth', { value: 90 })
    return { undo: screen.getByText('Undo'), text }
  }
  const point = (at: Element) => fireEvent(at, new MouseEvent('pointerover', { bubbles: true }))
  const wait = (milliseconds: number) => act(() => jest.advanceTimersByTime(milliseconds))

  test('comes after a moment of pointing, not at once, and goes with the pointer', () => {
    jest.useFakeTimers()
    const { undo } = page(true)
    point(undo)
    wait(300)
    expect(shown()).toBeUndefined()
    wait(200)
    expect(shown()).toContain('Take the last step back')
    point(document.body)
    expect(shown()).toBeUndefined()
  })

  test('a text that is whole is not told again; one that is cut is', () => {
    jest.useFakeTimers()
    const { text } = page(false)
    point(text)
    wait(900)
    expect(shown()).toBeUndefined()
    cleanup()
    point(page(true).text)
    wait(900)
    expect(shown()).toContain('Hybrid inverter, battery')
  })

  test('any key, a press or scrolling takes it away', () => {
    jest.useFakeTimers()
    const { undo } = page(true)
    for (const away of [
      () => fireEvent.keyDown(document.body, { key: 'Escape' }),
      () => fireEvent(undo, new MouseEvent('pointerdown', { bubbles: true })),
      () => fireEvent.scroll(undo),
      () => fireEvent.scroll(window),
    ]) {
      point(undo)
      wait(900)
      expect(shown()).toContain('Take the last step back')
      away()
      expect(shown()).toBeUndefined()
    }
  })

  test('nothing to tell is no mark', () => {
    expect(tip(undefined)).toEqual({})
    expect(tip('')).toEqual({})
  })
})

test('a note that came by itself stands until somebody has read it', async () => {
  const read = jest.fn()
  render(
    <Toasts>
      <Toast urgent action={<Button onClick={read}>Seen</Button>}>
        Back at 10.20.40.55 after 31 s
      </Toast>
    </Toasts>,
  )
  const note = screen.getAllByRole('alert').find((each) => each.dataset['toast'] !== undefined)
  expect(note?.textContent).toContain('Back at 10.20.40.55 after 31 s')
  await userEvent.click(within(note as HTMLElement).getByRole('button', { name: 'Seen' }))
  expect(read).toHaveBeenCalledTimes(1)
})
