import type { Change } from '../changes'
import { versionFits } from '../identity'
import type { Device } from '../job'
import { latestFact, portOf, type WalkRecord } from '../procedure'
import { isSameCode } from './written'

/** One thing that is known of a device from up to three sides: the plan, its label, and what it says by itself. */
export interface ThreeFacts {
  readonly what: string
  readonly plan: string
  readonly label: string
  readonly says: string
  readonly state: 'agrees' | 'differs' | 'not-known'
  /** What makes the plan say what was read, where a person decides that the label or the device is right. */
  readonly asRead: Change | undefined
}

const same = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase()

/** Everything that was read off a device, beside what is planned. Where nothing was read there is no line. */
export function threeFacts(record: WalkRecord, device: Device): readonly ThreeFacts[] {
  const read = (setting: string) => latestFact(record, device.id, setting)?.text ?? ''
  const port = portOf(device)
  const node = device.nodes[0]
  const ofDevice = (fields: Readonly<Record<string, string | number>>): Change => ({
    op: 'set',
    table: 'device',
    id: device.id,
    version: device.version,
    fields,
  })
  const lines: readonly Line[] = [
    {
      what: 'Order code',
      plan: device.orderCode,
      label: device.orderCodeFound,
      says: read('product-code'),
      fits: (a, b, sides) => (sides === 'plan-label' ? a === b : isSameCode(a, b)),
      asRead: (text) => ofDevice({ orderCode: text }),
    },
    {
      what: 'Hardware address',
      plan: port?.mac ?? '',
      label: read('mac'),
      says: '',
      fits: same,
      asRead: (text) => port && { op: 'set', table: 'port', id: port.id, version: port.version, fields: { mac: text } },
    },
    {
      what: 'Firmware',
      plan: device.firmwareRelation === 'any' ? '' : device.firmwareNeeded,
      label: device.firmwareFound,
      says: read('firmware'),
      fits: (a, b, sides) => (sides === 'label-says' ? same(a, b) : versionFits(b, device.firmwareRelation, a)),
      asRead: undefined,
    },
    {
      what: 'Unit id',
      plan: device.unitId === null ? '' : String(device.unitId),
      label: '',
      says: read('unit-id'),
      fits: same,
      asRead: (text) => ofDevice({ unitId: Number(text) }),
    },
    {
      what: 'Node',
      plan: node?.node == null ? '' : String(node.node),
      label: '',
      says: read('node'),
      fits: same,
      asRead: (text) =>
        node && { op: 'set', table: 'node', id: node.id, version: node.version, fields: { node: Number(text) } },
    },
  ]
  return lines.filter(({ label, says }) => label !== '' || says !== '').map(compared)
}

interface Line extends Pick<ThreeFacts, 'what' | 'plan' | 'label' | 'says'> {
  readonly fits: (a: string, b: string, sides: 'plan-label' | 'plan-says' | 'label-says') => boolean
  readonly asRead: ((text: string) => Change | undefined) | undefined
}

function compared({ what, plan, label, says, fits, asRead }: Line): ThreeFacts {
  const pairs = (
    [
      ['plan-label', plan, label],
      ['plan-says', plan, says],
      ['label-says', label, says],
    ] as const
  ).filter(([, a, b]) => a !== '' && b !== '')
  const state =
    pairs.length === 0 ? 'not-known' : pairs.every(([sides, a, b]) => fits(a, b, sides)) ? 'agrees' : 'differs'
  const read = label || says
  return { what, plan, label, says, state, asRead: state !== 'agrees' && plan !== read ? asRead?.(read) : undefined }
}
