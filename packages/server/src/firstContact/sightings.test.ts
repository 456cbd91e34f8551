import { hitsOf } from '@calm/core/discovery'
import { MOST_SIGHTINGS, Sightings } from './sightings'

const name = (k: number) => ({ address: `10.20.40.${k % 250}`, says: `name-${k}` })

test('heard again as before is nothing new, whenever it was', () => {
  let now = 1
  const heard = new Sightings(() => now)
  heard.add('name', '10.20.40.9', name(1))
  now = 2
  heard.add('name', '10.20.40.9', name(1))
  heard.add('lease', '10.20.40.9', name(1))
  expect(heard.list.map(({ by, at }) => [by, at])).toEqual([
    ['name', 1],
    ['lease', 2],
  ])
  expect(heard.leftOut).toBe(0)
})

test('one answer of 1 500 names is cut, and the sender is, and the others are heard all the same', () => {
  const heard = new Sightings(() => 0)
  const many = Array.from({ length: 1_500 }, (_, k) => name(k))
  heard.addAnswer('name', '10.20.40.66', many)
  expect(heard.list).toHaveLength(MOST_SIGHTINGS.ofAnswer)
  for (let turn = 0; turn < 200; turn += 1) heard.addAnswer('name', '10.20.40.66', many.slice(turn * 7, turn * 7 + 7))
  expect(heard.list).toHaveLength(MOST_SIGHTINGS.ofSender)
  expect(heard.leftOut).toBeGreaterThan(1_400)
  heard.add('identity', '10.20.40.50', { address: '10.20.41.50', says: 'Drive', serialNumber: '7' })
  expect(hitsOf(heard.list).map(({ says }) => says)).toContain('Drive')
})

test('many senders end at the most that is kept of one listening', () => {
  const heard = new Sightings(() => 0)
  for (let k = 0; k < MOST_SIGHTINGS.all + 10; k += 1) heard.add('name', `sender ${k}`, name(k))
  expect([heard.list.length, heard.leftOut]).toEqual([MOST_SIGHTINGS.all, 10])
})
