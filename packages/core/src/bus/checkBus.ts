import { applyRule, bySeverity, PLAN_ONLY, type Finding, type Fix, type Rule, type Subject } from '../findings'
import type { NodeFamily } from './family'
import { describeNode, formatNode, rangeText, type BusNode } from './node'

/** One node of a bus: a device, or one of its several (an axis, a second port). */
export interface NodeHolder {
  readonly id: string
  readonly tag: string
  readonly node: BusNode | undefined
  /** The bus master, of which there is one. */
  readonly isMaster: boolean
  /** The node it has out of the box, where that is known. */
  readonly defaultNode: BusNode | undefined
  /** Found at its planned node already: what it came with does not matter any more. */
  readonly isSettled: boolean
  /** The row that holds the node, and its field: what a fix changes. */
  readonly about: Subject
  readonly field: 'node' | 'unitId'
}

export interface Bus {
  readonly id: string
  readonly name: string
  readonly family: NodeFamily
  readonly holders: readonly NodeHolder[]
}

/** What a bus rule looks at: a holder that has a node, on its bus. */
export interface HolderOnBus {
  readonly holder: NodeHolder
  readonly node: BusNode
  readonly bus: Bus
}

const about = (holder: NodeHolder): Subject => holder.about
const setNode = (holder: NodeHolder, node: number, bus: Bus): Fix => {
  const text = formatNode(node as BusNode, bus.family)
  return {
    label: `Set ${holder.tag} to node ${text}`,
    sideEffect: PLAN_ONLY,
    edits: [{ subject: holder.about, field: holder.field, value: String(node) }],
  }
}

/** Nodes that nobody has, lowest first. */
export function freeNodes(bus: Bus): readonly BusNode[] {
  const taken = new Set(bus.holders.map((holder) => holder.node))
  const kept = new Set(bus.family.kept.map((each) => each.node))
  const all = Array.from(
    { length: bus.family.last - bus.family.first + 1 },
    (_, k) => (bus.family.first + k) as BusNode,
  )
  return all.filter((node) => !taken.has(node) && !kept.has(node))
}

const twinsOf = ({ holder, node, bus }: HolderOnBus) =>
  bus.holders.filter((other) => other !== holder && other.node === node)

/** Who should move when two want one node: the master, because a device's node may be set by switches. */
const movers = (subject: HolderOnBus): readonly NodeHolder[] => {
  const all = [subject.holder, ...twinsOf(subject)]
  return [...all.filter((each) => each.isMaster), ...all.filter((each) => !each.isMaster)]
}

const toFree = (subject: HolderOnBus): readonly Fix[] => {
  const [free] = freeNodes(subject.bus)
  return free === undefined
    ? []
    : movers(subject)
        .slice(0, 2)
        .map((holder) => setNode(holder, free, subject.bus))
}

const duplicateNode: Rule<HolderOnBus> = {
  id: 'bus.duplicate-node',
  title: 'Two devices, one node',
  severity: 'will-not-work',
  summary: 'Two devices of a bus have one node; both answer, and neither is understood.',
  appliesTo: (subject) => !movers(subject).some((each) => each.isMaster),
  check: (subject) => twinsOf(subject).length === 0,
  found: ({ node, bus }) => describeNode(node, bus.family),
  expected: () => 'a node that no other device has',
  why: (subject) =>
    `${[subject.holder, ...twinsOf(subject)].map((each) => each.tag).join(' and ')} are both at node ${describeNode(subject.node, subject.bus.family)} of ${subject.bus.name}.`,
  others: (subject) => twinsOf(subject).map(about),
  fixes: toFree,
  source: 'common practice, no source',
}

const masterOnNode: Rule<HolderOnBus> = {
  id: 'bus.master-on-node',
  title: 'The master sits on this node',
  severity: 'will-not-work',
  summary:
    'The bus master has a node that a device needs. The master’s node is a setting; the device’s may be switches.',
  appliesTo: (subject) => movers(subject).some((each) => each.isMaster),
  check: (subject) => twinsOf(subject).length === 0,
  found: ({ node, bus }) => describeNode(node, bus.family),
  expected: () => 'another node for the master',
  why: (subject) =>
    `${movers(subject)[0]?.tag ?? 'The master'} is the master of ${subject.bus.name} and has the node that ${movers(
      subject,
    )
      .slice(1)
      .map((each) => each.tag)
      .join(', ')} needs.`,
  others: (subject) => twinsOf(subject).map(about),
  fixes: toFree,
  source: 'common practice, no source',
}

/** The other modules that came with the same node and have not left it. */
const alikeAsDelivered = ({ holder, bus }: HolderOnBus) =>
  bus.holders.filter((other) => other !== holder && !other.isSettled && other.defaultNode === holder.defaultNode)

const defaultTwice: Rule<HolderOnBus> = {
  id: 'bus.default-node-twice',
  title: 'Left at the node it came with',
  severity: 'worth-knowing',
  summary: 'Two modules left the factory with one node. Power one at a time until each has its own.',
  appliesTo: ({ holder }) => holder.defaultNode !== undefined && !holder.isSettled,
  check: (subject) =>
    subject.node === subject.holder.defaultNode ||
    !alikeAsDelivered(subject).some((other) => other.node !== other.defaultNode),
  found: ({ holder, bus }) =>
    holder.defaultNode === undefined ? 'none' : describeNode(holder.defaultNode, bus.family),
  expected: () => 'one module at a time on the bus until both are set',
  why: ({ holder, bus }) =>
    `${bus.holders
      .filter((other) => !other.isSettled && other.defaultNode === holder.defaultNode)
      .map((other) => other.tag)
      .join(
        ' and ',
      )} come with node ${holder.defaultNode === undefined ? '' : describeNode(holder.defaultNode, bus.family)}. Set one before the other gets power.`,
  others: (subject) => alikeAsDelivered(subject).map(about),
  fixes: () => [],
  source: 'common practice, no source',
}

const outOfRange: Rule<HolderOnBus> = {
  id: 'bus.node-out-of-range',
  title: 'No such node on this bus',
  severity: 'will-not-work',
  summary: 'A node lies outside what the numbering of its bus allows, mostly after the numbering was changed.',
  appliesTo: () => true,
  check: ({ node, bus }) => node >= bus.family.first && node <= bus.family.last,
  found: ({ node }) => `decimal ${node}`,
  expected: ({ bus }) => `a node from ${rangeText(bus.family)}`,
  why: ({ holder, node, bus }) =>
    `${holder.tag} is planned at decimal ${node}; ${bus.name} has nodes from ${rangeText(bus.family)}.`,
  fixes: ({ holder, bus }) =>
    freeNodes(bus)
      .slice(0, 1)
      .map((free) => setNode(holder, free, bus)),
  source: 'common practice, no source; the range of each family names its own',
}

const gapInRow: Rule<HolderOnBus> = {
  id: 'bus.gap-in-row',
  title: 'A gap in the row',
  severity: 'worth-knowing',
  summary: 'Nodes are numbered in a row with one left out: mostly a module that was forgotten or a switch set wrong.',
  appliesTo: ({ bus }) => bus.holders.filter((holder) => holder.node !== undefined && !holder.isMaster).length >= 3,
  check: ({ holder, node, bus }) => {
    const nodes = new Set(bus.holders.filter((each) => !each.isMaster).map((each) => each.node))
    return holder.isMaster || nodes.has((node - 1) as BusNode) || !nodes.has((node - 2) as BusNode)
  },
  found: ({ node, bus }) => `${formatNode((node - 2) as BusNode, bus.family)}, then ${formatNode(node, bus.family)}`,
  expected: ({ node, bus }) => `a device at node ${formatNode((node - 1) as BusNode, bus.family)}, or none by intent`,
  why: ({ node, bus }) => `Nobody on ${bus.name} has node ${describeNode((node - 1) as BusNode, bus.family)}.`,
  fixes: () => [],
  source: 'common practice, no source',
}

/** What is looked for at every node of a bus. */
export const busRules: readonly Rule<HolderOnBus>[] = [outOfRange, duplicateNode, masterOnNode, defaultTwice, gapInRow]

/** Everything that the bus rules find, unsafe first. */
export function checkBus(bus: Bus): readonly Finding[] {
  const findings = bus.holders.flatMap((holder) => {
    if (holder.node === undefined) return []
    const subject = { holder, node: holder.node, bus }
    return busRules.flatMap((rule) => applyRule(rule, subject, about(holder)) ?? [])
  })
  return bySeverity(findings)
}
