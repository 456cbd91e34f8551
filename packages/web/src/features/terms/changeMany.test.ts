/** @jest-environment jsdom */
import { basisOf, handshakeTermsOf } from '@calm/core/job'
import {
  sampleDevice,
  sampleEvidence,
  sampleHandshake,
  sampleJob,
  sampleLine,
  sampleTerms,
} from '@calm/core/job/fixtures'
import { changesOf, previewMany } from './changeMany'

const node = (at: number) => ({ id: `n${at}`, lineId: 'L', node: at, name: '', isMaster: false, version: 1 })
const units = ['A', 'B', 'C']
const plain = sampleJob({
  devices: [
    sampleDevice('PLC', '10.20.40.10'),
    sampleDevice('GW', '10.20.40.40'),
    ...units.map((tag, at) =>
      sampleDevice(tag, null, { ports: [], unitId: at + 1, behindId: 'GW', nodes: [node(at + 1)] }),
    ),
  ],
  lines: [sampleLine({ id: 'L', settings: '9600 8N1' })],
  handshakes: units.map((tag) =>
    sampleHandshake('PLC', tag, {
      id: tag,
      terms: sampleTerms('count', tag === 'B' ? '4' : '2').map((term) => ({ ...term, id: `${tag} ${term.id}` })),
    }),
  ),
})
const proven = plain.handshakes.find(({ id }) => id === 'C')
if (!proven) throw new Error('no handshake')
/** The third is agreed. */
const job = {
  ...plain,
  evidence: [
    sampleEvidence('handshake', 'C', 'agreed', { basis: basisOf(handshakeTermsOf(plain, proven), undefined) }),
  ],
}
const preview = (
  ...args: [ids: readonly string[], id: 'count' | 'line-settings', end: 'controller' | 'device', text: string]
) => {
  const [ids, id, end, text] = args
  const made = previewMany(
    job,
    job.handshakes.filter((each) => ids.includes(each.id)),
    id,
    end,
    text,
    () => 'new',
  )
  if ('refusal' in made) throw new Error(made.refusal.what)
  return made
}

test('who would change, who has it already, and what is proven is left alone until it is asked for', () => {
  const made = preview(units, 'count', 'controller', '4')
  expect(made).toMatchObject({ same: 1, without: 0 })
  expect(made.changing.map(({ handshake, from, isProven }) => [handshake.id, from, isProven])).toEqual([
    ['A', '2', false],
    ['C', '2', true],
  ])
  expect([changesOf(made.changing, false).length, changesOf(made.changing, true).length]).toEqual([1, 2])
})

test('a row that a proven one shares is not changed behind its back, shown or not', () => {
  const made = preview(['A', 'B'], 'line-settings', 'controller', '9600 8E1')
  expect(made.changing.map(({ isProven }) => isProven)).toEqual([true, true])
  expect(changesOf(made.changing, false)).toEqual([])
  // One line, one change, for however many it is.
  expect(changesOf(made.changing, true)).toMatchObject([{ op: 'set', table: 'line', id: 'L' }])
})

test('what cannot be is refused before anything is said of who would change', () => {
  expect(previewMany(job, job.handshakes, 'count', 'device', '0')).toHaveProperty('refusal')
})
