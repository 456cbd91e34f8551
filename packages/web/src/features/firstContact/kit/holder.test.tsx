/** @jest-environment jsdom */
import { act, cleanup, render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { Holder } from './holder'

afterEach(cleanup)

test('who holds a password is written down once with Enter and leaving; refused, it is said again', async () => {
  const said: string[] = []
  let refuse: (reason: Error) => void = () => undefined
  const onSay = (text: string) => {
    said.push(text)
    return new Promise<void>((_done, fail) => (refuse = fail))
  }
  render(
    <ul>
      <Holder tag="RIO-111" holder="" onSay={onSay} />
    </ul>,
  )
  await userEvent.type(screen.getByLabelText('RIO-111'), ' M. Diaz {Enter}')
  await userEvent.tab()
  expect(said).toEqual(['M. Diaz'])
  await act(async () => refuse(new Error('no room')))
  expect(screen.getByLabelText<HTMLInputElement>('RIO-111').value).toBe(' M. Diaz ')
  await userEvent.click(screen.getByLabelText('RIO-111'))
  await userEvent.tab()
  expect(said).toEqual(['M. Diaz', 'M. Diaz'])
  await userEvent.clear(screen.getByLabelText('RIO-111'))
  await userEvent.tab()
  expect(said).toHaveLength(2)
})
