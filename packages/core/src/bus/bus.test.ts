import fc from 'fast-check'
import { checkBus, freeNodes, type Bus, type NodeHolder } from './checkBus'
import { nodeFamilies, nodeFamily } from './family'
import { describeNode, formatNode, parseNode, rangeText, type BusNode } from './node'

const octal = nodeFamily('octal-0-77')
const decimal = nodeFamily('decimal-0-125')
const holder = (tag: string, node: number | undefined, more: Partial<NodeHolder> = {}): NodeHolder => ({
  id: tag,
  tag,
  node: node as BusNode | undefined,
  isMaster: false,
  defaultNode: undefined,
  isSettled: false,
  about: { kind: 'node', id: tag },
  field: 'node',
  ...more,
})
const bus = (holders: readonly NodeHolder[], family = decimal): Bus => ({ id: 'b', name: 'bus 1', family, holders })
const found = (made: Bus) => checkBus(made).map((finding) => `${finding.subject.id}: ${finding.rule}`)

describe('nodes as they are written', () => {
  // 77 octal = 63; 64 nodes; 8 and 9 never occur (common practice, no source).
  test('octal 0 to 77 are 64 nodes, the last one decimal 63', () => {
    const nodes = Array.from({ length: 64 }, (_, k) => formatNode(k as BusNode, octal))
    expect(nodes[0]).toBe('00')
    expect(nodes[8]).toBe('10')
    expect(nodes[63]).toBe('77')
    expect(new Set(nodes).size).toBe(64)
    expect(nodes.join('')).not.toMatch(/[89]/)
    expect(describeNode(63 as BusNode, octal)).toBe('77 (decimal 63)')
  })

  test('an octal node with an 8 or a 9 is refused, with the octal writing offered', () => {
    expect(parseNode('18', octal)).toMatchObject({
      ok: false,
      refusal: { code: 'node.not-octal', offers: [{ value: '22' }] },
    })
    expect(parseNode('99', octal)).toMatchObject({ ok: false, refusal: { code: 'node.not-octal', offers: [] } })
  })

  test.each([
    ['decimal-0-125', '0', true],
    ['decimal-0-125', '125', true],
    ['decimal-0-125', '126', false],
    ['decimal-0-63', '64', false],
    ['decimal-1-127', '0', false],
    ['decimal-1-127', '127', true],
    ['decimal-1-64', '65', false],
    ['decimal-1-247', '247', true],
    ['decimal-1-247', '248', false],
    ['octal-0-77', '77', true],
    ['octal-0-77', '100', false],
    ['octal-0-77', '', false],
    ['octal-0-77', '-1', false],
    ['octal-0-77', '7.5', false],
  ])('%s takes %j: %s', (id, text, good) => expect(parseNode(text, nodeFamily(id)).ok).toBe(good))

  test('what is written in any family is read back, and Node’s own parseInt agrees', () => {
    const family = fc.constantFrom(...nodeFamilies)
    fc.assert(
      fc.property(family, fc.nat(300), (each, value) => {
        const node = Math.min(Math.max(value, each.first), each.last) as BusNode
        const text = formatNode(node, each)
        expect(parseNode(text, each)).toEqual({ ok: true, value: node })
        expect(parseInt(text, each.base)).toBe(node)
      }),
    )
  })

  test('a family is one entry of data', () => {
    expect(new Set(nodeFamilies.map((each) => each.id)).size).toBe(nodeFamilies.length)
    expect(rangeText(octal)).toBe('0 to 77 octal')
    expect(() => nodeFamily('hex')).toThrow(RangeError)
  })
})

describe('findings of a bus', () => {
  test('a good row has none', () =>
    expect(found(bus([holder('M', 0, { isMaster: true }), holder('A', 3), holder('B', 4), holder('C', 5)]))).toEqual(
      [],
    ))

  test('two devices at one node, with a free one offered', () => {
    const findings = checkBus(bus([holder('A', 3), holder('B', 3)]))
    expect(findings.map((finding) => finding.rule)).toEqual(['bus.duplicate-node', 'bus.duplicate-node'])
    expect(findings[0]?.fixes.map((fix) => fix.label)).toEqual(['Set A to node 0', 'Set B to node 0'])
  })

  test('the master on a node that a device needs: moving the master comes first', () => {
    const findings = checkBus(bus([holder('A', 8), holder('M', 8, { isMaster: true })], octal))
    expect(findings.map((finding) => finding.rule)).toEqual(['bus.master-on-node', 'bus.master-on-node'])
    expect(findings[0]?.found).toBe('10 (decimal 8)')
    expect(findings[0]?.fixes[0]?.label).toBe('Set M to node 00')
  })

  test('two modules that came with one node: worth knowing until both are set', () => {
    const twins = (a: number, b: number) =>
      found(
        bus(
          [holder('A', a, { defaultNode: 63 as BusNode }), holder('B', b, { defaultNode: 63 as BusNode })],
          nodeFamily('decimal-0-63'),
        ),
      )
    expect(twins(63, 63)).toContain('A: bus.duplicate-node')
    expect(twins(5, 63)).toEqual([])
    expect(twins(5, 6)).toContain('A: bus.default-node-twice')
  })

  test('one that was found at its planned node is not at the one it came with any more', () => {
    const twin = { defaultNode: 1 as BusNode }
    const family = nodeFamily('decimal-1-247')
    expect(found(bus([holder('A', 5, { ...twin, isSettled: true }), holder('B', 6, twin)], family))).toEqual([])
    expect(found(bus([holder('A', 5, twin), holder('B', 7, twin)], family))).toEqual([
      'A: bus.default-node-twice',
      'B: bus.default-node-twice',
    ])
  })

  test('a node outside the numbering, as after the numbering was changed, with a free one offered', () => {
    const [finding] = checkBus(bus([holder('A', 100), holder('B', 5)], octal))
    expect(finding).toMatchObject({
      rule: 'bus.node-out-of-range',
      found: 'decimal 100',
      expected: 'a node from 0 to 77 octal',
    })
    expect(finding?.fixes[0]?.edits[0]?.value).toBe('0')
  })

  test('a gap in a numbered row of three or more', () => {
    expect(found(bus([holder('A', 1), holder('B', 2), holder('C', 4)]))).toEqual(['C: bus.gap-in-row'])
    expect(found(bus([holder('A', 1), holder('C', 3)]))).toEqual([])
  })

  test('when every node is taken nothing is offered', () => {
    const full = Array.from({ length: 64 }, (_, k) => holder(`D${k}`, k))
    const made = bus([...full, holder('X', 5)], octal)
    expect(freeNodes(made)).toEqual([])
    expect(checkBus(made).find((finding) => finding.subject.id === 'X')?.fixes).toEqual([])
  })
})

describe('a way out is one', () => {
  const buses = fc
    .record({
      family: fc.constantFrom(...nodeFamilies),
      nodes: fc.array(fc.record({ at: fc.nat(20), isMaster: fc.boolean(), comesWith: fc.option(fc.nat(5)) }), {
        maxLength: 14,
      }),
    })
    .map(({ family, nodes }) =>
      bus(
        nodes.map(({ at, isMaster, comesWith }, k) =>
          holder(`D${k}`, family.first + at, {
            isMaster: isMaster && k === 0,
            defaultNode: comesWith === null ? undefined : ((family.first + comesWith) as BusNode),
          }),
        ),
        family,
      ),
    )
  const serious = (made: Bus) => checkBus(made).filter((finding) => finding.severity !== 'worth-knowing')

  test('taking the first fix of any finding leaves fewer that will not work, and moves one holder only', () => {
    fc.assert(
      fc.property(buses, (made) => {
        const before = serious(made)
        const [finding] = before
        const edit = finding?.fixes[0]?.edits[0]
        if (!edit) return
        const after = {
          ...made,
          holders: made.holders.map((each) =>
            each.id === edit.subject.id ? { ...each, node: Number(edit.value) as BusNode } : each,
          ),
        }
        expect(serious(after).length).toBeLessThan(before.length)
        expect(after.holders.filter((each, k) => each.node !== made.holders[k]?.node)).toHaveLength(1)
      }),
      { numRuns: 300 },
    )
  })

  test('taken one after the other, they end: every device has a node of its own', () => {
    fc.assert(
      fc.property(buses, (made) => {
        let now = made
        for (let k = 0; k < 40; k += 1) {
          const edit = serious(now)[0]?.fixes[0]?.edits[0]
          if (!edit) break
          now = {
            ...now,
            holders: now.holders.map((each) =>
              each.id === edit.subject.id ? { ...each, node: Number(edit.value) as BusNode } : each,
            ),
          }
        }
        expect(serious(now)).toEqual([])
        expect(new Set(now.holders.map((each) => each.node)).size).toBe(now.holders.length)
      }),
      { numRuns: 100 },
    )
  })
})
