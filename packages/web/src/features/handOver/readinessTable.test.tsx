/** @jest-environment jsdom */
import { readinessOf } from '@calm/core/handOver'
import { sampleDevice, sampleEvidence, sampleHandshake, sampleJob } from '@calm/core/job/fixtures'
import { blankWalk } from '@calm/core/procedure'
import { cleanup, screen, within } from '@testing-library/react'
import { likeABrowser, seriousIn } from '../../fixtures'
import { drawn } from '../../fixtures/drawn'
import { ReadinessTable } from './readinessTable'

beforeAll(likeABrowser)
afterEach(cleanup)

const tags = ['EM-1', 'EM-2', 'EM-3', 'EM-4', 'EM-5']
const job = sampleJob({
  devices: [sampleDevice('PLC', '10.20.40.10', { kind: 'controller' }), ...tags.map((tag) => sampleDevice(tag, null))],
  handshakes: tags.map((tag) => sampleHandshake('PLC', tag, { points: [] })),
  evidence: [
    sampleEvidence('handshake', 'PLC-EM-1', 'safe'),
    sampleEvidence('handshake', 'PLC-EM-2', 'safe', { verdict: 'at-odds' }),
  ],
})

test('each rung says how many are proven, in which states they are, and which are open', async () => {
  const view = drawn(<ReadinessTable job={job} rungs={readinessOf(job, blankWalk).rungs} />)
  const safe = screen.getByRole('row', { name: /^Safe/ })
  expect(safe.textContent).toContain('1/5')
  expect(within(safe).getByRole('img').getAttribute('aria-label')).toBe('1 proven, 1 at odds, 3 not started')
  // One mark for each handshake.
  expect(within(safe).getByRole('img').querySelectorAll('path')).toHaveLength(5)
  const open = within(safe).getAllByRole('link')
  expect(open.map(({ textContent }) => textContent)).toEqual(['EM-2', 'EM-3', 'EM-4'])
  expect(open[0]?.getAttribute('href')).toBe('/jobs/job/proof/PLC-EM-2')
  expect(safe.textContent).toContain('and 1 more')
  expect(await seriousIn(view.container)).toEqual([])
})

test('a job without a handshake has nothing that is needed', () => {
  const empty = sampleJob()
  drawn(<ReadinessTable job={empty} rungs={readinessOf(empty, blankWalk).rungs} />)
  for (const mark of screen.queryAllByRole('img')) expect(mark.getAttribute('aria-label')).toBe('nothing needed')
  expect(screen.getByRole('row', { name: /^Safe/ }).textContent).toContain('0/0')
})
