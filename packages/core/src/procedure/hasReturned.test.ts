import { hasReturned } from './hasReturned'

const wait = {
  watch: 'back-at-planned',
  oldAddress: '10.20.40.7',
  newAddress: '10.20.40.21',
  seenGoneAt: null,
} as const
const open = { answers: true, serves: true, over: false }
const refuses = { ...open, serves: false }
const silent = { answers: false, serves: false, over: false }

test.each([
  ['nothing answers', wait, silent, false],
  ['nothing answers and the time is over', wait, { ...silent, over: true }, false],
  ['a port is open at its new address', wait, open, true],
  ['it refuses: it is up, and not in service', wait, refuses, false],
  [
    'it still refuses when the time is over: it offers nothing that is looked at',
    wait,
    { ...refuses, over: true },
    true,
  ],
  ['it stays at its address and was not seen to go', { ...wait, oldAddress: '10.20.40.21' }, open, false],
  ['it stays at its address and was seen to go', { ...wait, oldAddress: '10.20.40.21', seenGoneAt: 5 }, open, true],
  ['it is to go and come back, and has not gone', { ...wait, watch: 'gone-and-back' as const }, open, false],
  ['it has gone and come back', { ...wait, watch: 'gone-and-back' as const, seenGoneAt: 5 }, open, true],
  ['it has gone, and only refuses', { ...wait, watch: 'gone-and-back' as const, seenGoneAt: 5 }, refuses, false],
  [
    'it was never seen to go, and the time is over',
    { ...wait, watch: 'gone-and-back' as const },
    { ...open, over: true },
    true,
  ],
])('back or not: %s', (_what, each, look, is) => {
  expect(hasReturned(each, look)).toBe(is)
})
