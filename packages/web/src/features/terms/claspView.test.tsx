/** @jest-environment jsdom */
import { claspOf, type TermContext } from '@calm/core/terms'
import { cleanup, render, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { ProblemError } from '../../api'
import { likeABrowser, seriousIn } from '../../fixtures'
import { ClaspView } from './claspView'
import { openAt, type TermEdit, type TermText } from './useTermEdit'

beforeAll(likeABrowser)
afterEach(cleanup)

const entry = (text: string) => ({ text, origin: 'its manual' })
const context: TermContext = {
  tags: { controller: 'PLC', device: 'EM' },
  terms: {
    address: { device: { ...entry('10.20.40.50'), origin: 'Line-up' } },
    'function-code': { controller: entry('3'), device: entry('3') },
    'first-register': { device: { ...entry('40001'), notation: undefined } },
  },
}

/** The clasp with what is saved; `refuse` is thrown instead of saving. */
function shown(refuse?: Error) {
  const saved: [string, string, TermText][] = []
  const edit: TermEdit['edit'] = (id, end, next) => {
    saved.push([id, end, next])
    return refuse ? Promise.reject(refuse) : Promise.resolve()
  }
  const terms = {
    edit,
    takeOver: () => undefined,
    say: () => Promise.resolve(),
    speak: () => undefined,
    problem: undefined,
    forget: () => undefined,
  }
  const clasp = claspOf(context)
  const drawn = render(<ClaspView clasp={clasp} context={context} terms={terms} />)
  return { saved, clasp, ...drawn }
}
const value = (name: RegExp) => screen.getByRole('button', { name })
const at = (name: RegExp) => value(name).focus()

describe('terms by keyboard', () => {
  test('Enter edits, Tab saves and goes on to the next one of the same end, Shift Tab back', async () => {
    const { saved } = shown()
    at(/^Count of EM: not known/)
    await userEvent.keyboard('{Enter}2{Tab}')
    expect(saved).toEqual([['count', 'device', { text: '2', origin: 'its manual', notation: null }]])
    expect(document.activeElement?.getAttribute('aria-label')).toBe('Data type of EM')
    await userEvent.keyboard('{Shift>}{Tab}{/Shift}')
    expect(document.activeElement?.getAttribute('aria-label')).toBe('Count of EM')
    expect(saved).toHaveLength(1)
  })

  test('a first digit begins a value that is not known; over one that stands there it does not', async () => {
    const { saved } = shown()
    at(/^Count of PLC: not known/)
    await userEvent.keyboard('12{Enter}')
    expect(saved).toEqual([['count', 'controller', { text: '12', origin: 'program of PLC', notation: null }]])
    at(/^Function code of PLC: 03/)
    await userEvent.keyboard('5')
    expect(screen.queryByRole('combobox')).toBeNull()
  })

  test('what cannot be read is not saved and not left; Escape takes it back', async () => {
    const { saved, container } = shown()
    at(/^Count of EM: not known/)
    await userEvent.keyboard('{Enter}126{Tab}')
    const field = screen.getByLabelText<HTMLInputElement>('Count of EM')
    expect([field.value, field.getAttribute('aria-invalid')]).toEqual(['126', 'true'])
    expect(screen.getByRole('alert').textContent).toContain('125')
    expect(await seriousIn(container)).toEqual([])
    await userEvent.keyboard('{Escape}')
    expect(saved).toEqual([])
    expect(value(/^Count of EM: not known/)).toBeTruthy()
  })

  test('= takes over what the other end says; not into what the line-up holds, and nothing from nothing', async () => {
    const { saved } = shown()
    at(/^First register of PLC: not known/)
    await userEvent.keyboard('=')
    expect(saved).toEqual([
      ['first-register', 'controller', { text: '40001', origin: 'taken over from EM', notation: null }],
    ])
    at(/^Count of PLC: not known/)
    await userEvent.keyboard('=')
    at(/^Address of EM: /)
    await userEvent.keyboard('=')
    expect(saved).toHaveLength(1)
  })

  test('a server that refuses: what was typed stands there again, with the reason', async () => {
    const reason = new ProblemError(422, [{ what: 'Not now.', where: '', expected: 'later', found: '' }])
    const { saved } = shown(reason)
    at(/^Count of EM: not known/)
    await userEvent.keyboard('{Enter}2{Enter}')
    await waitFor(() => expect(screen.getByLabelText<HTMLInputElement>('Count of EM').value).toBe('2'))
    expect(screen.getByRole('alert').textContent).toContain('Not now.')
    expect(saved).toHaveLength(1)
  })
})

describe('what is not known', () => {
  test('is said of the end where it is so', () => {
    const { container } = shown()
    const said = (term: string) => container.querySelector(`[data-term=${term}] [data-fits]`)?.textContent
    expect(said('first-register')).toBe('not known at PLC')
    expect(said('count')).toBe('not known at both ends')
  })

  test('and could be written as the other end says, but for what the line-up holds', () => {
    const { clasp } = shown()
    expect(openAt(clasp.rows, 'controller').map(({ id }) => id)).toEqual(['address', 'first-register'])
    expect(openAt(clasp.rows, 'device')).toEqual([])
  })
})
