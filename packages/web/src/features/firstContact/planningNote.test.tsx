/** @jest-environment jsdom */
import { render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import type { ComponentProps } from 'react'
import { PlanningNote } from './planningNote'

type Contact = ComponentProps<typeof PlanningNote>['contact']
const contact = (planning: Partial<Contact['planning']>, count = 40): Contact =>
  ({
    given: { devices: Array.from({ length: count }, (_, k) => ({ id: `D${k}` })) },
    planning: { busy: false, stopped: false, stop: () => undefined, again: () => undefined, ...planning },
  }) as unknown as Contact

test('while the order is worked out it says of how many, how long at most, and can be stopped', async () => {
  const stop = jest.fn()
  render(<PlanningNote contact={contact({ busy: true, stop })} />)
  expect(screen.getByRole('status').textContent).toContain('Working out the order of 40 devices, at most 1 s…')
  await userEvent.click(screen.getByRole('button', { name: 'Stop' }))
  expect(stop).toHaveBeenCalledTimes(1)
})

test('stopped, it says that what is shown is from before, and begins again when asked', async () => {
  const again = jest.fn()
  render(<PlanningNote contact={contact({ stopped: true, again })} />)
  expect(screen.getByRole('status').textContent).toContain('worked out before the last change')
  await userEvent.click(screen.getByRole('button', { name: 'Work it out' }))
  expect(again).toHaveBeenCalledTimes(1)
})

test('when the order is there it says nothing', () => {
  const { container } = render(<PlanningNote contact={contact({})} />)
  expect(container.textContent).toBe('')
})
