import { restartRules, waysOfSetting } from '@calm/core/kind'
import { settingOf, type Device, type Job } from '@calm/core/job'
import type { DeviceColumnId } from '@calm/core/lineUp'

/** Columns that belong together: a table has room for one set at a time. Widths in px, until somebody drags them. */
export interface ColumnSet {
  readonly id: string
  readonly name: string
  readonly columns: readonly { readonly id: DeviceColumnId; readonly width: number; readonly hideNarrow?: boolean }[]
  /** Whether the ladder stands beside the finding. */
  readonly ladder: boolean
}

export const columnSets: readonly ColumnSet[] = [
  {
    id: 'plan',
    name: 'Plan',
    columns: [
      { id: 'what', width: 160 },
      { id: 'asFound', width: 122, hideNarrow: true },
      { id: 'address', width: 110 },
      { id: 'unitId', width: 42 },
    ],
    ladder: true,
  },
  {
    id: 'network',
    name: 'Network',
    columns: [
      { id: 'network', width: 92 },
      { id: 'address', width: 108 },
      { id: 'gateway', width: 108 },
      { id: 'mac', width: 140 },
      { id: 'hostName', width: 90, hideNarrow: true },
      { id: 'school', width: 116, hideNarrow: true },
    ],
    ladder: false,
  },
  {
    id: 'parts',
    name: 'Parts',
    columns: [
      { id: 'orderCode', width: 112 },
      { id: 'orderCodeFound', width: 112 },
      { id: 'serialNumber', width: 92 },
      { id: 'firmwareFound', width: 66 },
      { id: 'firmwareNeeded', width: 106 },
      { id: 'place', width: 92, hideNarrow: true },
    ],
    ladder: false,
  },
  {
    id: 'setting',
    name: 'Setting',
    columns: [
      { id: 'kind', width: 132 },
      { id: 'isolation', width: 56 },
      { id: 'setting', width: 112 },
      { id: 'effective', width: 112, hideNarrow: true },
      { id: 'startUp', width: 50 },
      { id: 'nodes', width: 150 },
    ],
    ladder: false,
  },
]

/** Heads as they stand above the table, where a name is too long for its column. */
export const shortHeads: Readonly<Partial<Record<DeviceColumnId, string>>> = {
  address: 'Planned',
  unitId: 'Unit',
  gateway: 'Gateway',
  mac: 'MAC',
  firmwareFound: 'Found',
  firmwareNeeded: 'Needed',
  startUp: 'Start s',
  orderCodeFound: 'Label says',
  serialNumber: 'Serial',
}

/** How a cell is called, for its field and for screen readers. */
export function cellName(id: DeviceColumnId, name: string, tag: string): string {
  if (id === 'what') return `What ${tag} is`
  if (id === 'asFound') return `Where ${tag} was found`
  return `${name} of ${tag}`
}

/** What the kind says where the device says nothing; shown softly. */
export function fromKind(id: DeviceColumnId, device: Device, job: Job): string | undefined {
  if (id === 'setting' && device.setting === null) return waysOfSetting[settingOf(job, device).way].name
  if (id === 'effective' && device.effective === null) return restartRules[settingOf(job, device).effective].name
  if (id === 'startUp' && device.startUpSeconds === null) return String(settingOf(job, device).startUpSeconds)
  if (id === 'handsOn' && device.handsOnSeconds === null) return String(settingOf(job, device).handsOnSeconds)
  return undefined
}
