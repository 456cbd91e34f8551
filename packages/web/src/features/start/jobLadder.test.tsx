/** @jest-environment jsdom */
import type { JobSummary } from '@calm/contract/api'
import { cleanup, render, screen } from '@testing-library/react'
import { seriousIn } from '../../fixtures'
import { JobLadder } from './jobLadder'

afterEach(cleanup)

const rung = (name: string, proven: number, needed: number, atOdds = 0): JobSummary['ladder'][number] => ({
  rung: 'agreed',
  name,
  proven,
  needed,
  atOdds,
})
// Keys are rungs; each here is another one.
const ladder: JobSummary['ladder'] = [
  rung('Safe', 4, 4),
  { ...rung('Agreed', 1, 4, 2), rung: 'reading' },
  { ...rung('Writing', 0, 0), rung: 'writing' },
]

test('says in words what it draws', async () => {
  const { container } = render(<JobLadder ladder={ladder} />)
  expect(screen.getByRole('img').getAttribute('aria-label')).toBe(
    'Safe: 4 of 4; Agreed: 1 of 4, 2 at odds; Writing: nothing to prove',
  )
  expect(await seriousIn(container)).toEqual([])
})

test('each rung is filled as far as its handshakes have it', () => {
  const { container } = render(<JobLadder ladder={ladder} />)
  const heights = [...container.querySelectorAll('.fill-proven')].map((each) => Number(each.getAttribute('height')))
  expect(heights).toEqual([14, 3.5, 0])
  expect(container.querySelectorAll('.fill-odds')).toHaveLength(1)
})
