import { parseIpv4 } from '../address'
import { nodeFamily, parseNode } from '../bus'
import { isKnownKind, kindFacts, kindsOf, lampWords, outOfReach, restartRules, shippedKinds, waysOfSetting } from '.'

const at = (text: string) => {
  const address = parseIpv4(text)
  if (!address.ok) throw new Error(text)
  return address.value
}

describe('the kinds that ship', () => {
  test('are about twenty, each with an id of its own', () => {
    expect(shippedKinds.length).toBeGreaterThanOrEqual(22)
    expect(new Set(shippedKinds.map((kind) => kind.id)).size).toBe(shippedKinds.length)
  })
  test.each(shippedKinds.map((kind) => [kind.id, kind] as const))('%s holds together', (_id, kind) => {
    expect(kind.id).toMatch(/^[a-z0-9]+(-[a-z0-9]+)*$/)
    expect(kind.block[0]).toBeLessThanOrEqual(kind.block[1])
    if (kind.defaultAddress.kind === 'fixed') expect(parseIpv4(kind.defaultAddress.address).ok).toBe(true)
    if (kind.defaultNode && kind.defaultNode.node !== null) {
      const family = nodeFamily(kind.defaultNode.family)
      expect(parseNode(kind.defaultNode.node.toString(family.base), family).ok).toBe(true)
    }
    expect(waysOfSetting[kind.setting]).toBeDefined()
    expect(restartRules[kind.effective]).toBeDefined()
    // Where a network is reached there is a socket for it, and something is to be looked at before power.
    if (kind.defaultAddress.kind !== 'none') expect(kind.sockets.some((socket) => socket.isNetwork)).toBe(true)
    expect(kind.beforePower.length).toBeGreaterThan(0)
    for (const each of kind.lamps) expect(lampWords(each.pattern)).toMatch(/^(is|shows|flashes)/)
  })
  test('those that carry dangerous voltage or move say so before power', () => {
    const words = shippedKinds
      .filter((kind) => kind.role === 'drive' || kind.id === 'inverter' || kind.id === 'battery-interface')
      .map((kind) => kind.beforePower.join(' '))
    for (const text of words) expect(text).toMatch(/isolate/i)
    for (const kind of shippedKinds.filter((each) => each.role === 'meter'))
      expect(kind.beforePower.join(' ')).toMatch(/never open a secondary under load/)
  })
})

test('a job’s own kind stands beside those that ship; an unknown one keeps its id as its name', () => {
  const facts = { ...kindFacts('drive', []), id: 'own-drive', name: 'Our drive' }
  const own = [{ id: 'k', version: 1, facts }]
  expect(kindsOf(own)).toHaveLength(shippedKinds.length + 1)
  expect(kindFacts('own-drive', own).name).toBe('Our drive')
  expect(isKnownKind('own-drive', [])).toBe(false)
  expect(kindFacts('own-drive', [])).toMatchObject({ name: 'own-drive', lamps: [] })
})

test.each([
  [{ shape: 'off' }, 'is dark'],
  [{ shape: 'steady', colour: 'green' }, 'is green without flashing'],
  [{ shape: 'flashing', colour: 'red', hertz: 1 }, 'flashes red once a second'],
  [{ shape: 'flashing', colour: 'red', hertz: 4 }, 'flashes red 4 times a second'],
  [{ shape: 'flashing', colour: 'amber', hertz: 0.5 }, 'flashes amber every 2 seconds'],
  [{ shape: 'in-turn', colours: ['green', 'red'], hertz: 2 }, 'shows green and red in turn, twice a second'],
  [{ shape: 'shows', text: 'ready' }, 'shows "ready"'],
] as const)('%j in words', (pattern, words) => expect(lampWords(pattern)).toBe(words))

test.each([
  ['keypad-last-octet', '192.168.1.20', '192.168.1.21', true],
  ['keypad-last-octet', '192.168.1.20', '192.168.2.21', false],
  ['dip-switch', '192.168.1.20', '192.168.1.64', false],
  ['dip-switch', undefined, '192.168.1.63', true],
  ['rotary-switch', '192.168.1.20', '192.168.1.255', false],
  ['serial-menu', '192.168.1.20', '10.0.0.1', true],
] as const)('%s from %s to %s', (way, present, planned, can) =>
  expect(outOfReach(way, present === undefined ? undefined : at(present), at(planned)) === undefined).toBe(can),
)
