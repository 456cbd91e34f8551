/** @jest-environment jsdom */
import type { Finding } from '@calm/core/findings'
import { cleanup, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { likeABrowser, seriousIn } from '../../../fixtures'
import { drawn } from '../../../fixtures/drawn'
import { FindingView } from './findingView'

beforeAll(likeABrowser)
afterEach(cleanup)

const fix = (label: string) => ({ label, sideEffect: `${label}: takes a restart.`, edits: [] })
const finding = {
  ...{ rule: 'address.twice', severity: 'will-not-work', title: 'Two devices, one address', deviceIds: ['A', 'B'] },
  ...{ why: 'A and B are headed for 10.20.40.60.', source: 'RFC 5227', fixes: [fix('Move A'), fix('Move B')] },
} as unknown as Finding
const shown = (more: Partial<Finding> = {}) => {
  const fixed = jest.fn()
  const accepted = jest.fn()
  const view = drawn(<FindingView finding={{ ...finding, ...more }} onFix={fixed} onAccept={accepted} />)
  return { ...view, fixed, accepted }
}
const press = (name: string) => userEvent.click(screen.getByRole('button', { name }))

test('it says what is so, why, where that is from, and each way out with what it brings', async () => {
  const { fixed, container } = shown()
  expect(screen.getByRole('heading', { name: 'Two devices, one address' })).toBeTruthy()
  expect(container.textContent).toContain('A and B are headed for 10.20.40.60.')
  expect(container.textContent).toContain('Source: RFC 5227.')
  expect(container.textContent).toContain('Move A: takes a restart.')
  await press('Move B')
  expect(fixed).toHaveBeenCalledWith(finding.fixes[1])
  expect(await seriousIn(container)).toEqual([])
})

test('without a way out there is none to press', () => {
  const { container } = shown({ fixes: [] })
  expect(container.querySelectorAll('[data-fix]')).toHaveLength(0)
})

test('it may stand with a reason, and not without one', async () => {
  const { accepted } = shown()
  await press('Let it stand')
  const reason = screen.getByLabelText<HTMLInputElement>('Why "Two devices, one address" may stand')
  expect(document.activeElement).toBe(reason)
  await press('Let it stand')
  await waitFor(() => expect(reason.getAttribute('aria-invalid')).toBe('true'))
  expect(accepted).not.toHaveBeenCalled()
  await userEvent.type(reason, 'B is a cold spare{Enter}')
  await waitFor(() => expect(accepted).toHaveBeenCalledWith('B is a cold spare'))
})

test('Escape leaves it as it was', async () => {
  const { accepted } = shown()
  await press('Let it stand')
  await userEvent.keyboard('{Escape}')
  expect(screen.queryByLabelText(/may stand/)).toBeNull()
  expect(accepted).not.toHaveBeenCalled()
})
