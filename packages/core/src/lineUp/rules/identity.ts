import { versionFits, type VersionRelation } from '../../identity'
import { differenceWords } from './names'
import { aboutDevice, type DeviceInJob, type DeviceRule } from './subject'

export const orderCode: DeviceRule = {
  id: 'device.order-code',
  title: 'Another order code',
  severity: 'will-not-work',
  summary:
    'The order code on the label is not the one of the parts list. It is compared whole: one letter is another unit.',
  appliesTo: ({ device }) => device.orderCode !== '' && device.orderCodeFound !== '',
  check: ({ device }) => device.orderCode === device.orderCodeFound,
  found: ({ device }) => device.orderCodeFound,
  expected: ({ device }) => device.orderCode,
  why: ({ device }) => differenceWords('On the label', device.orderCode, device.orderCodeFound),
  fixes: ({ device }) => [
    {
      label: `Plan ${device.orderCodeFound} instead`,
      sideEffect: 'Changes the parts list of the plan only. Ask who ordered it whether that unit will do.',
      edits: [{ subject: aboutDevice(device), field: 'orderCode', value: device.orderCodeFound }],
    },
  ],
  source: 'common practice, no source',
}

const twins = ({ device, index }: DeviceInJob) =>
  index.withSerialNumber(device.serialNumber).filter((other) => other !== device)

export const serialNumberTwice: DeviceRule = {
  id: 'device.serial-number-twice',
  title: 'One serial number, two devices',
  severity: 'will-not-work',
  summary: 'Two devices are written down with one serial number; one label was read twice.',
  appliesTo: ({ device }) => device.serialNumber !== '',
  check: (subject) => twins(subject).length === 0,
  found: ({ device }) => device.serialNumber,
  expected: () => 'a serial number of its own',
  why: (subject) =>
    `${[subject.device, ...twins(subject)].map((device) => device.tag).join(' and ')} are written down with ${subject.device.serialNumber}.`,
  others: (subject) => twins(subject).map(aboutDevice),
  fixes: () => [],
  source: 'common practice, no source',
}

/** Words for how a version must stand to another one. */
export const relationWords: Readonly<Record<VersionRelation, string>> = {
  any: 'does not matter',
  equal: 'equal to',
  'at-least': 'at least',
  'not-above': 'not above',
}

/** The version that is the measure: the needed one, or the one found at another device. */
function firmwareMeasure({ device, index }: Pick<DeviceInJob, 'device' | 'index'>): string {
  return device.firmwareOfId === null ? device.firmwareNeeded : (index.device(device.firmwareOfId)?.firmwareFound ?? '')
}

export const firmware: DeviceRule = {
  id: 'device.firmware',
  title: 'The firmware does not fit',
  severity: 'will-not-work',
  summary: 'The firmware that was found does not stand to the one that is needed as it must.',
  appliesTo: (subject) =>
    subject.device.firmwareRelation !== 'any' && subject.device.firmwareFound !== '' && firmwareMeasure(subject) !== '',
  check: (subject) =>
    versionFits(subject.device.firmwareFound, subject.device.firmwareRelation, firmwareMeasure(subject)),
  found: ({ device }) => device.firmwareFound,
  expected: (subject) => `${relationWords[subject.device.firmwareRelation]} ${firmwareMeasure(subject)}`,
  why: (subject) => {
    const other = subject.index.device(subject.device.firmwareOfId)
    const measure = firmwareMeasure(subject)
    return `${subject.device.tag} has ${subject.device.firmwareFound}; it must be ${relationWords[subject.device.firmwareRelation]} ${measure}${other ? `, which ${other.tag} has` : ''}.`
  },
  others: ({ device, index }) => {
    const other = index.device(device.firmwareOfId)
    return other ? [aboutDevice(other)] : []
  },
  fixes: () => [],
  source: 'common practice, no source; versions compared as in SemVer 2.0.0 clause 11',
}

export const kindUnknown: DeviceRule = {
  id: 'device.kind-unknown',
  title: 'A kind that is not known here',
  severity: 'worth-knowing',
  summary: 'The device is of a kind that neither ships nor is among the kinds of the job, so nothing is known of it.',
  appliesTo: () => true,
  check: ({ kind }) => kind.name !== kind.id,
  found: ({ device }) => device.kind,
  expected: () => 'a kind that ships, or one of the job’s own',
  why: ({ device }) => `Nothing is known of ${device.kind}: no default address, no times, no lamps.`,
  fixes: () => [],
  source: 'common practice, no source',
}
