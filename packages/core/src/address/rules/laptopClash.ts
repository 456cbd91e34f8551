import { formatIpv4 } from '../ipv4'
import { moveToFree, type PortInPlan, type PortRule } from './subject'

const clashing = ({ address, index }: PortInPlan) => index.plan.laptop.find((entry) => entry.address === address)

export const laptopClash: PortRule = {
  id: 'address.laptop-clash',
  title: 'The laptop has this address',
  severity: 'will-not-work',
  summary: 'The laptop holds the address that a device is planned for; as soon as both are on, neither is reached.',
  appliesTo: () => true,
  check: (subject) => clashing(subject) === undefined,
  found: ({ address }) => formatIpv4(address),
  expected: () => 'different addresses for laptop and device',
  why: (subject) =>
    `This laptop has ${formatIpv4(subject.address)} on ${clashing(subject)?.interfaceName ?? 'an interface'} now. ` +
    `Change the laptop before ${subject.port.tag} is switched on.`,
  fixes: (subject) => moveToFree(subject, subject.address),
  source: 'RFC 5227 1',
}
