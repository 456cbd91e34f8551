import type { Rule } from '../../findings'
import { aboutPort, type PortInPlan } from './subject'

/** A port with or without a planned address: its label is read before its address is planned. */
type LabelledPort = Pick<PortInPlan, 'port' | 'index'>

const twins = ({ port, index }: LabelledPort) =>
  port.mac === undefined ? [] : index.withMac(port.mac).filter((other) => other !== port)

export const macTwice: Rule<LabelledPort> = {
  id: 'address.mac-twice',
  title: 'One hardware address, two devices',
  severity: 'will-not-work',
  summary: 'Two ports have one hardware address. It is unique to a port: one of them was written down wrongly.',
  appliesTo: ({ port }) => port.mac !== undefined,
  check: (subject) => twins(subject).length === 0,
  found: ({ port }) => port.mac ?? 'none',
  expected: () => 'a hardware address that no other port has',
  why: (subject) =>
    `${[subject.port, ...twins(subject)].map((port) => port.tag).join(' and ')} are written down with ${subject.port.mac}. Read both labels again.`,
  others: (subject) => twins(subject).map(aboutPort),
  fixes: () => [],
  source: 'IEEE 802-2014 8.2 (a universally administered address is unique); common practice',
}
