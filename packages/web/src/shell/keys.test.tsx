/** @jest-environment jsdom */
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { likeABrowser, seriousIn } from '../fixtures'
import { Choice } from '../ui'
import { KeysDialog, usePageKeys } from './keys'

beforeAll(likeABrowser)
afterEach(cleanup)

function Page({ done, children }: { done: string[]; children?: React.ReactNode }) {
  usePageKeys({ A: () => done.push('add'), '/': () => done.push('filter'), Enter: () => done.push('open') })
  return (
    <>
      <input aria-label="Filter" />
      <button type="button">Undo</button>
      {children}
    </>
  )
}

describe('single keys of the page', () => {
  test('do what they say, with and without Shift', async () => {
    const done: string[] = []
    render(<Page done={done} />)
    await userEvent.keyboard('aA/{Enter}')
    expect(done).toEqual(['add', 'add', 'filter', 'open'])
  })

  test('act once while they are held down', () => {
    const done: string[] = []
    render(<Page done={done} />)
    fireEvent.keyDown(window, { key: 'a' })
    fireEvent.keyDown(window, { key: 'a', repeat: true })
    expect(done).toEqual(['add'])
  })

  test('belong to a field while it is typed into', async () => {
    const done: string[] = []
    render(<Page done={done} />)
    await userEvent.type(screen.getByLabelText('Filter'), 'a/')
    expect(done).toEqual([])
    expect(screen.getByLabelText<HTMLInputElement>('Filter').value).toBe('a/')
  })

  test('find something in a list while it has the focus, open or not', async () => {
    const done: string[] = []
    const taken: string[] = []
    const choices = [
      { value: 'p', label: 'Process' },
      { value: 'a', label: 'Alarms' },
    ]
    render(
      <Page done={done}>
        <Choice label="Network" value="p" choices={choices} onChange={(next) => taken.push(next)} />
      </Page>,
    )
    act(() => screen.getByRole('combobox').focus())
    await userEvent.keyboard('a')
    expect(taken).toEqual(['a'])
    await userEvent.keyboard('{Enter}')
    await userEvent.keyboard('a')
    expect(done).toEqual([])
  })

  test('wait while a dialog is open; Enter on a button is the button’s', async () => {
    const done: string[] = []
    const { rerender } = render(
      <Page done={done}>
        <KeysDialog open onClose={() => undefined} />
      </Page>,
    )
    await userEvent.keyboard('a')
    rerender(<Page done={done} />)
    act(() => screen.getByRole('button', { name: 'Undo' }).focus())
    await userEvent.keyboard('{Enter}')
    expect(done).toEqual([])
  })

  test('with Ctrl or Alt they are the browser’s', () => {
    const done: string[] = []
    render(<Page done={done} />)
    fireEvent.keyDown(document.body, { key: 'a', ctrlKey: true })
    fireEvent.keyDown(document.body, { key: 'a', altKey: true })
    expect(done).toEqual([])
  })
})

test('the list of keys is told, with the word that none of them writes to a device', async () => {
  render(<KeysDialog open onClose={() => undefined} />)
  const dialog = screen.getByRole('dialog', { name: 'Keys' })
  expect(dialog.textContent).toContain('On the plant no single key writes to a device.')
  expect(await seriousIn(dialog)).toEqual([])
})
