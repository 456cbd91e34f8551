/** @jest-environment jsdom */
import { ok, refusal } from '@calm/core/units'
import { cleanup, render, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useState } from 'react'
import { ProblemError } from '../api'
import { seriousIn } from '../fixtures'
import { Dialog, Editable, Field } from '.'

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

  test('a server that does not answer: what was typed stays', async () => {
    refuse = new Error('network')
    render(<Unit />)
    const field = await open()
    await userEvent.keyboard('12{Enter}')
    expect((await screen.findByRole('alert')).textContent).toContain('It could not be saved.')
    expect(field.value).toBe('12')
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
