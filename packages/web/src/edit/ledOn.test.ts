import type { Change } from '@calm/core/changes'
import { ledOnBy, onTop } from './ledOn'

const set = (id: string, version: number): Change => ({ op: 'set', table: 'handshake', id, version, fields: {} })
const versions = (changes: readonly Change[]) => onTop(changes).map((each) => ('version' in each ? each.version : '-'))

test('a change of a row that this page has changed since it was looked at goes on top of it', () => {
  expect(versions([set('a', 3)])).toEqual([3])
  ledOnBy([set('a', 3)])
  ledOnBy([set('a', 4)])
  expect(versions([set('a', 3)])).toEqual([5])
  expect(versions([set('a', 5)])).toEqual([5])
  expect(versions([set('b', 3)])).toEqual([3])
})

test('where somebody else changed it in between it is sent as it was looked at, and refused', () => {
  ledOnBy([set('c', 1)])
  // Version 2 is ours; somebody else made 3 of it, which this page has not led on to.
  expect(versions([set('c', 1)])).toEqual([2])
  ledOnBy([set('c', 3)])
  expect(versions([set('c', 1)])).toEqual([2])
})

test('several changes of one row in one list keep their distance; rows that are added have no version', () => {
  ledOnBy([set('d', 7)])
  expect(
    versions([
      set('d', 7),
      { op: 'add', table: 'point', id: 'p', fields: {} },
      set('d', 8),
      { op: 'remove', table: 'handshake', id: 'd', version: 9 },
    ]),
  ).toEqual([8, '-', 9, 10])
})
