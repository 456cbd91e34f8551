/** @jest-environment jsdom */
import { parseWholeNumber } from '@calm/core/units'
import { act, cleanup, render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useState } from 'react'
import { numberText, readOpen, useTyped } from './useTyped'

afterEach(cleanup)

type Sent = Partial<Record<'words' | 'room', string>>
const sent: Sent[] = []
let answers: ((taken: boolean) => void)[] = []
beforeEach(() => {
  sent.length = 0
  answers = []
})
const answer = (taken: boolean) => act(async () => answers.shift()?.(taken))

function Panel() {
  const [kept, setKept] = useState({ words: '4', room: '0' })
  const { texts, type, leaving } = useTyped(
    kept,
    (_key, text) => parseWholeNumber(text, { name: 'Words', min: 0, max: 100 }).ok,
    (changed) => {
      sent.push(changed)
      return new Promise<void>((done, fail) =>
        answers.push((taken) => {
          if (taken) setKept({ ...kept, ...changed })
          if (taken) done()
          else fail(new Error('refused'))
        }),
      )
    },
  )
  return (
    <div {...leaving}>
      <input aria-label="Words" value={texts.words} onChange={(event) => type('words', event.target.value)} />
      <input aria-label="Room" value={texts.room} onChange={(event) => type('room', event.target.value)} />
    </div>
  )
}
const words = () => screen.getByLabelText<HTMLInputElement>('Words')
const put = async (text: string) => {
  await userEvent.clear(words())
  await userEvent.type(words(), text)
}

test('what was typed is sent when its field is left, once, and only what has changed', async () => {
  render(<Panel />)
  await put('7')
  expect(sent).toEqual([])
  await userEvent.tab()
  expect(sent).toEqual([{ words: '7' }])
  await answer(true)
  expect(words().value).toBe('7')
  await userEvent.tab()
  expect(sent).toHaveLength(1)
})

test('Enter sends it too; what is as it was is not sent', async () => {
  render(<Panel />)
  await put('4{Enter}')
  expect(sent).toEqual([])
  await put('9{Enter}')
  expect(sent).toEqual([{ words: '9' }])
})

test('Enter and leaving the field right after it send once; what is typed after that is sent again', async () => {
  render(<Panel />)
  await put('7{Enter}')
  await userEvent.tab()
  expect(sent).toEqual([{ words: '7' }])
  await put('8{Enter}')
  expect(sent).toEqual([{ words: '7' }, { words: '8' }])
  await answer(true)
  expect(words().value).toBe('8')
  await userEvent.tab()
  await answer(true)
  await put('7{Enter}')
  expect(sent.at(-1)).toEqual({ words: '7' })
})

test('what is still on its way goes along when the next field is left', async () => {
  render(<Panel />)
  await put('7')
  await userEvent.tab()
  await userEvent.type(screen.getByLabelText('Room'), '{Backspace}3')
  await userEvent.tab()
  expect(sent).toEqual([{ words: '7' }, { words: '7', room: '3' }])
})

test('what cannot be read stays as it was typed and is not sent; the field beside it is', async () => {
  render(<Panel />)
  await put('7x')
  await userEvent.type(screen.getByLabelText('Room'), '{Backspace}3')
  await userEvent.tab()
  expect(sent).toEqual([{ room: '3' }])
  await answer(true)
  expect(words().value).toBe('7x')
})

test('what was refused stays as it was typed, and is sent again when it is left again', async () => {
  render(<Panel />)
  await put('7')
  await userEvent.tab()
  await answer(false)
  expect(words().value).toBe('7')
  await userEvent.tab()
  expect(sent).toEqual([{ words: '7' }, { words: '7' }])
})

test('who goes to another view by key has left the field', async () => {
  const { unmount } = render(<Panel />)
  await put('8')
  unmount()
  expect(sent).toEqual([{ words: '8' }])
})

test('a blank number is not known, and 0 is a number', () => {
  expect([numberText(null), numberText(0)]).toEqual(['', '0'])
  expect(readOpen(' ', 'Poll', 1, 10)).toEqual({ ok: true, value: null })
  expect(readOpen('7', 'Poll', 1, 10)).toEqual({ ok: true, value: 7 })
  expect(readOpen('0', 'Poll', 1, 10).ok).toBe(false)
})
