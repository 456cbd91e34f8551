/** @jest-environment jsdom */
import { ok, refusal } from '@calm/core/units'
import { act, cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useState } from 'react'
import { ProblemError } from '../api'
import { likeABrowser, seriousIn } from '../fixtures'
import { Dialog, Editable, Field, LostEdits, Toasts } from '.'

beforeAll(likeABrowser)
afterEach(cleanup)

const number = (text: string) =>
  /^\d+$/.test(text)
    ? ok(Number(text))
    : refusal('number.form', `"${text}" is not a number.`, text, 'a whole number', [{ label: 'Use 12', value: '12' }])

describe('a field', () => {
  function Address({ wrong }: { wrong?: boolean }) {
    const [value, setValue] = useState('010.1')
    const trouble =
      wrong && value !== '10.1'
        ? { what: 'Leading zeros.', expected: 'plain numbers', offers: [{ label: 'Use 10.1', value: '10.1' }] }
        : undefined
    return <Field label="Address" value={value} onChange={setValue} trouble={trouble} />
  }

  test('is labelled, and what is wrong with it is told to whoever cannot see it', async () => {
    const { container } = render(<Address wrong />)
    const field = screen.getByLabelText('Address')
    expect(field.getAttribute('aria-invalid')).toBe('true')
    expect(document.getElementById(field.getAttribute('aria-describedby') ?? '')?.textContent).toContain(
      'Leading zeros.',
    )
    expect(await seriousIn(container)).toEqual([])
  })

  test('the likely reading is one click; then nothing is wrong any more', async () => {
    render(<Address wrong />)
    await userEvent.click(screen.getByRole('button', { name: 'Use 10.1' }))
    const field = screen.getByLabelText<HTMLInputElement>('Address')
    expect(field.value).toBe('10.1')
    expect(field.getAttribute('aria-invalid')).toBe('false')
    expect(field.getAttribute('aria-describedby')).toBeNull()
  })
})

describe('a value edited where it stands', () => {
  const saved: string[] = []
  let refuse: unknown
  const save = (text: string) => {
    saved.push(text)
    return refuse === undefined ? Promise.resolve() : Promise.reject(refuse as Error)
  }
  function Unit({ text = '7' }: { text?: string }) {
    return <Editable label="Unit id" text={text} read={number} onSave={save} />
  }
  beforeEach(() => {
    saved.length = 0
    refuse = undefined
  })
  const open = async () => {
    await userEvent.click(screen.getByRole('button', { name: 'Unit id: 7. Edit' }))
    return screen.getByLabelText<HTMLInputElement>('Unit id')
  }

  test('Enter saves it once, and the focus is back where it stands', async () => {
    render(<Unit />)
    await open()
    await userEvent.keyboard('12{Enter}')
    await waitFor(() => expect(screen.queryByLabelText('Unit id')).toBeNull())
    expect(saved).toEqual(['12'])
    expect(document.activeElement).toBe(screen.getByRole('button', { name: /Unit id/ }))
  })

  test('Escape leaves it as it was; the same text is not saved', async () => {
    render(<Unit />)
    await open()
    await userEvent.keyboard('12{Escape}')
    await open()
    await userEvent.keyboard('7{Enter}')
    expect(saved).toEqual([])
  })

  test('what cannot be read stays with the reason; the offer puts it right', async () => {
    const { container } = render(<Unit />)
    const field = await open()
    await userEvent.keyboard('1x{Enter}')
    expect(field.value).toBe('1x')
    expect(screen.getByRole('alert').textContent).toContain('"1x" is not a number.Expected: a whole number.')
    expect(await seriousIn(container)).toEqual([])
    await userEvent.click(screen.getByRole('button', { name: 'Use 12' }))
    expect(saved).toEqual(['12'])
  })

  test('saved by somebody else meanwhile: nothing is saved until the person has chosen', async () => {
    refuse = new ProblemError(409, [{ what: 'changed', where: '', expected: '', found: '' }])
    const { rerender } = render(<Unit />)
    await open()
    await userEvent.keyboard('12{Enter}')
    rerender(<Unit text="9" />)
    expect((await screen.findByRole('alert')).textContent).toContain('It now says 9; you typed 12.')
    refuse = undefined
    await userEvent.click(screen.getByRole('button', { name: 'Save 12 instead' }))
    expect(saved).toEqual(['12', '12'])
  })

  test('a server that does not answer: what was typed stands there again, in the field, with the focus', async () => {
    refuse = new Error('network')
    render(<Unit />)
    await open()
    await userEvent.keyboard('12{Enter}')
    expect((await screen.findByRole('alert')).textContent).toContain('It could not be saved.')
    const field = screen.getByLabelText<HTMLInputElement>('Unit id')
    expect(field.value).toBe('12')
    expect(document.activeElement).toBe(field)
  })

  describe('while the server has still to answer', () => {
    let answers: ((reason?: unknown) => void)[]
    function Slow({ text = '7' }: { text?: string }) {
      const onSave = (typed: string) => {
        saved.push(typed)
        return new Promise((done, fail) => answers.push((reason) => (reason === undefined ? done(0) : fail(reason))))
      }
      return <Editable label="Unit id" text={text} read={number} onSave={onSave} />
    }
    beforeEach(() => {
      answers = []
    })
    const answer = (k: number, reason?: unknown) => act(async () => answers[k]?.(reason))

    test('what was typed stands there at once, and is said to be on its way', async () => {
      render(<Slow />)
      await open()
      await userEvent.keyboard('12{Enter}')
      const button = screen.getByRole('button', { name: 'Unit id: 12. Edit' })
      expect(button.textContent).toBe('12')
      expect(button.getAttribute('aria-busy')).toBe('true')
      await answer(0)
      expect(screen.getByRole('button', { name: /Unit id/ }).getAttribute('aria-busy')).toBe('false')
    })

    test('Enter, and the field left by it in the same moment, send it once', async () => {
      render(<Slow />)
      const field = await open()
      await userEvent.keyboard('12')
      act(() => {
        fireEvent.keyDown(field, { key: 'Enter' })
        fireEvent.blur(field)
      })
      expect(saved).toEqual(['12'])
    })

    test('the next thing typed in the same place is saved too', async () => {
      const { rerender } = render(<Slow />)
      await open()
      await userEvent.keyboard('12{Enter}')
      rerender(<Slow text="12" />)
      await userEvent.click(screen.getByRole('button', { name: 'Unit id: 12. Edit' }))
      await userEvent.keyboard('13{Enter}')
      expect(saved).toEqual(['12', '13'])
      await answer(0)
      expect(screen.getByRole('button', { name: 'Unit id: 13. Edit' }).getAttribute('aria-busy')).toBe('true')
    })

    test('refused while something else is typed there: that stays, and what was refused is named', async () => {
      render(<Slow />)
      await open()
      await userEvent.keyboard('12{Enter}')
      await userEvent.click(screen.getByRole('button', { name: 'Unit id: 12. Edit' }))
      await userEvent.keyboard('13')
      await answer(0, new ProblemError(422, [{ what: 'Taken.', where: '', expected: 'another', found: '12' }]))
      expect(screen.getByLabelText<HTMLInputElement>('Unit id').value).toBe('13')
      expect(screen.getByRole('alert').textContent).toContain('12 was not saved. Taken.')
    })

    test('refused when the person has gone on: the field is open again and leaves the focus where it is', async () => {
      render(
        <>
          <Slow />
          <input aria-label="Elsewhere" />
        </>,
      )
      await open()
      await userEvent.keyboard('12{Enter}')
      await userEvent.click(screen.getByLabelText('Elsewhere'))
      await answer(0, new Error('network'))
      expect(screen.getByLabelText<HTMLInputElement>('Unit id').value).toBe('12')
      expect(document.activeElement).toBe(screen.getByLabelText('Elsewhere'))
    })

    test('refused when its cell is gone: told at the foot of the page, with what was typed, until it was seen', async () => {
      const page = (cell: React.ReactNode) => (
        <Toasts>
          {cell}
          <LostEdits />
        </Toasts>
      )
      const { rerender } = render(page(<Slow />))
      await open()
      await userEvent.keyboard('12{Enter}')
      rerender(page(null))
      await answer(0, new ProblemError(422, [{ what: 'Taken.', where: '', expected: 'another', found: '12' }]))
      expect(document.querySelector('[data-toast]')?.textContent).toContain(
        'Unit id was not saved: Taken. You typed 12.',
      )
      await userEvent.click(screen.getByRole('button', { name: 'Seen' }))
      expect(document.querySelector('[data-toast]')).toBeNull()
    })
  })
})

describe('a dialog', () => {
  test('is named, holds the focus and closes with Escape', async () => {
    const closed = jest.fn()
    render(
      <Dialog title="Add a device" say="Changes the plan only." open onClose={closed}>
        <button type="button">Add</button>
      </Dialog>,
    )
    const dialog = screen.getByRole('dialog', { name: 'Add a device' })
    expect(dialog.contains(document.activeElement)).toBe(true)
    expect(document.getElementById(dialog.getAttribute('aria-describedby') ?? '')?.textContent).toBe(
      'Changes the plan only.',
    )
    expect(await seriousIn(dialog)).toEqual([])
    await userEvent.keyboard('{Escape}')
    expect(closed).toHaveBeenCalledTimes(1)
  })

  test('that is not open is not there', () => {
    render(
      <Dialog title="Hidden" open={false} onClose={() => undefined}>
        <p>Nothing</p>
      </Dialog>,
    )
    expect(screen.queryByRole('dialog')).toBeNull()
  })
})
