/** @jest-environment jsdom */
import { newRow } from '@calm/contract'
import { bodies } from '@calm/contract/bodies'
import { cleanup, render, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { ProblemError } from '../api'
import { seriousIn } from '../fixtures'
import { Button, Field, Problems } from '../ui'
import { against, againstPart, useSchemaForm } from '.'

afterEach(cleanup)

type Values = { where: string; value: string }
const check = against<Values>(bodies.addForced)

function Forced({ send, asTyped = false }: { send: (values: Values) => Promise<unknown>; asTyped?: boolean }) {
  const form = useSchemaForm({
    start: { where: '', value: '' },
    ...(asTyped ? { check: () => [], asTyped: ['where'] } : { check }),
    send: (values, reset) => send(values).then(() => reset()),
  })
  return (
    <form onSubmit={form.onSubmit} noValidate>
      <Field label="Where" {...form.bind('where')} />
      <Field label="Value" {...form.bind('value')} />
      <Problems reason={form.trouble} />
      <Button type="submit">Note it</Button>
    </form>
  )
}
const where = () => screen.getByLabelText<HTMLInputElement>('Where')
const value = () => screen.getByLabelText<HTMLInputElement>('Value')
const submit = () => userEvent.click(screen.getByRole('button', { name: 'Note it' }))
const noteOf = (field: HTMLElement) =>
  document.getElementById(field.getAttribute('aria-describedby') ?? '')?.textContent ?? ''

test('nothing is sent while the schema of the contract has something against it; each field says its own', async () => {
  const send = jest.fn(() => Promise.resolve())
  const { container } = render(<Forced send={send} />)
  await userEvent.type(where(), 'L')
  await submit()
  expect(send).not.toHaveBeenCalled()
  expect(where().getAttribute('aria-invalid')).toBe('true')
  expect(noteOf(where())).toMatch(/at least 2/)
  expect(value().getAttribute('aria-invalid')).toBe('true')
  expect(where().value).toBe('L')
  expect(document.activeElement).toBe(where())
  expect(await seriousIn(container)).toEqual([])
})

test('a field that was found wrong is looked at again while it is put right', async () => {
  render(<Forced send={() => Promise.resolve()} />)
  await submit()
  expect(where().getAttribute('aria-invalid')).toBe('true')
  await userEvent.type(where(), 'LS')
  await waitFor(() => expect(where().getAttribute('aria-invalid')).toBe('false'))
  expect(value().getAttribute('aria-invalid')).toBe('true')
})

test('what is sent goes without the blanks at its ends, and the form begins anew', async () => {
  const send = jest.fn((_: Values) => Promise.resolve())
  render(<Forced send={send} />)
  await userEvent.type(where(), '  LS-11 ')
  await userEvent.type(value(), 'held on')
  await submit()
  expect(send).toHaveBeenCalledWith({ where: 'LS-11', value: 'held on' })
  await waitFor(() => expect(where().value).toBe(''))
})

test('a field whose blanks belong to it keeps them', async () => {
  const send = jest.fn((_: Values) => Promise.resolve())
  render(<Forced send={send} asTyped />)
  await userEvent.type(where(), ' LS ')
  await userEvent.type(value(), '1')
  await submit()
  expect(send.mock.calls[0]?.[0].where).toBe(' LS ')
})

test('what only the server can refuse stands at its field; what was typed stays', async () => {
  const refusal = { what: 'LS-11 is forced already.', where: 'where', expected: 'another place', found: 'LS-11' }
  render(<Forced send={() => Promise.reject(new ProblemError(422, [refusal]))} />)
  await userEvent.type(where(), 'LS-11')
  await userEvent.type(value(), '1')
  await submit()
  await waitFor(() => expect(noteOf(where())).toContain('LS-11 is forced already.'))
  expect(where().value).toBe('LS-11')
  expect(value().getAttribute('aria-invalid')).toBe('false')
})

test('what belongs to no field is told below all of them', async () => {
  const elsewhere = { what: 'The job was removed.', where: 'jobId', expected: 'a job', found: '' }
  render(<Forced send={() => Promise.reject(new ProblemError(404, [elsewhere]))} />)
  await userEvent.type(where(), 'LS-11')
  await userEvent.type(value(), '1')
  await submit()
  expect((await screen.findByRole('alert')).textContent).toContain('The job was removed.')
})

test('a server that does not answer is told; nothing typed is lost', async () => {
  render(<Forced send={() => Promise.reject(new TypeError('fetch failed'))} />)
  await userEvent.type(where(), 'LS-11')
  await userEvent.type(value(), '1')
  await submit()
  expect((await screen.findByRole('alert')).textContent).toContain('The server does not answer.')
  expect(where().value).toBe('LS-11')
})

describe('against a schema', () => {
  test('a form that holds a part of what travels hears only of its own fields', () => {
    const checkReason = againstPart<{ reason: string }>(newRow('acceptance'))
    expect(checkReason({ reason: 'seen with the owner' })).toEqual([])
    expect(checkReason({ reason: 'no' }).map(({ where: at }) => at)).toEqual(['reason'])
  })

  test('the form as it travels may be another shape', () => {
    const checkUnit = against<{ text: string }>(newRow('node'), ({ text }) => ({ node: Number(text) }))
    expect(checkUnit({ text: '3' }).map(({ where: at }) => at)).toContain('lineId')
  })

  test('where nothing is sent there is nothing to check', () => {
    expect(against(undefined)({})).toEqual([])
  })
})
