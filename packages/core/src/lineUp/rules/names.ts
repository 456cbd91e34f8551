import { differences, parseHostName } from '../../identity'
import { aboutDevice, PLAN_ONLY, type DeviceInJob, type DeviceRule } from './subject'

export const hostNameForm: DeviceRule = {
  id: 'device.host-name-form',
  title: 'Not a host name',
  severity: 'will-not-work',
  summary: 'The network name has characters, or a length, that names on a network may not have.',
  appliesTo: ({ device }) => device.hostName !== '',
  check: ({ device }) => parseHostName(device.hostName).ok,
  found: ({ device }) => device.hostName,
  expected: () => 'letters, digits and hyphens, for example plc-101',
  why: ({ device }) => {
    const reading = parseHostName(device.hostName)
    return reading.ok ? '' : reading.refusal.what
  },
  fixes: ({ device }) => {
    const reading = parseHostName(device.hostName)
    return reading.ok
      ? []
      : reading.refusal.offers.map(({ label, value }) => ({
          label,
          sideEffect: PLAN_ONLY,
          edits: [{ subject: aboutDevice(device), field: 'hostName', value }],
        }))
  },
  source: 'RFC 1123 2.1; RFC 952',
}

const twins = ({ device, index }: DeviceInJob) =>
  index.withHostName(device.hostName).filter((other) => other !== device)

export const hostNameTwice: DeviceRule = {
  id: 'device.host-name-twice',
  title: 'Two devices, one name',
  severity: 'will-not-work',
  summary: 'Two devices have one network name; capitals make no difference. Whoever asks for it gets one of them.',
  appliesTo: ({ device }) => device.hostName !== '',
  check: (subject) => twins(subject).length === 0,
  found: ({ device }) => device.hostName,
  expected: () => 'a name that no other device has',
  why: (subject) =>
    `${[subject.device, ...twins(subject)].map((device) => device.tag).join(' and ')} are both called ${subject.device.hostName}.`,
  others: (subject) => twins(subject).map(aboutDevice),
  fixes: () => [],
  source: 'RFC 1035 2.3.3 (names are compared without regard to case)',
}

const unequal = ({ device }: DeviceInJob) => device.namePlaces.filter((place) => place.text !== device.hostName)

export const namePlaces: DeviceRule = {
  id: 'device.name-differs',
  title: 'The name differs',
  severity: 'will-not-work',
  summary: 'A name that must be the same in several places is not, letter for letter.',
  appliesTo: ({ device }) => device.namePlaces.length > 0,
  check: (subject) => unequal(subject).length === 0,
  found: (subject) =>
    unequal(subject)
      .map((place) => `${place.where}: ${place.text || 'blank'}`)
      .join(', '),
  expected: ({ device }) => device.hostName || 'a planned name',
  why: (subject) =>
    unequal(subject)
      .map((place) => differenceWords(place.where, subject.device.hostName, place.text))
      .join(' '),
  fixes: (subject) =>
    [...new Set(unequal(subject).map((place) => place.text))]
      .filter((text) => text !== '')
      .slice(0, 1)
      .map((text) => ({
        label: `Plan ${text} instead`,
        sideEffect: PLAN_ONLY,
        edits: [{ subject: aboutDevice(subject.device), field: 'hostName', value: text }],
      })),
  source: 'common practice, no source',
}

/** Says where two texts differ first, and whether the characters look alike. */
export function differenceWords(where: string, planned: string, found: string): string {
  if (found === '') return `${where}: nothing stands there yet.`
  const all = differences(planned, found)
  const [first] = all
  if (!first) return ''
  const seen = first.right === '' ? 'ends' : `has ${named(first.right)}`
  const meant = first.left === '' ? 'ends' : `has ${named(first.left)}`
  const alike = first.looksAlike ? ' They look alike.' : ''
  const more = all.length > 1 ? ` ${all.length} characters differ.` : ''
  return `${where}: character ${first.at + 1} ${seen}, the plan ${meant}.${alike}${more}`
}

const NAMED: Readonly<Record<string, string>> = {
  '0': 'the digit 0',
  '1': 'the digit 1',
  O: 'the letter O',
  o: 'the letter o',
  l: 'the small letter l',
  I: 'the capital letter I',
  ' ': 'a space',
}
const named = (character: string) => NAMED[character] ?? `"${character}"`
