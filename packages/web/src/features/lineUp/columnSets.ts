import { restartRules, waysOfSetting } from '@calm/core/kind'
import { settingOf, type Device, type Job } from '@calm/core/job'
import type { DeviceColumnId } from '@calm/core/lineUp'

/** Columns that belong together: a table has room for one set at a time. */
export interface ColumnSet {
  readonly id: string
  readonly name: string
  readonly columns: readonly { readonly id: DeviceColumnId; readonly width: string; readonly hideNarrow?: boolean }[]
  /** Whether the ladder stands beside the finding. */
  readonly ladder: boolean
}

export const columnSets: readonly ColumnSet[] = [
  {
    id: 'plan',
    name: 'Plan',
    columns: [
      { id: 'what', width: '16%' },
      { id: 'asFound', width: '122px', hideNarrow: true },
      { id: 'address', width: '110px' },
      { id: 'unitId', width: '42px' },
    ],
    ladder: true,
  },
  {
    id: 'network',
    name: 'Network',
    columns: [
      { id: 'network', width: '92px' },
      { id: 'address', width: '108px' },
      { id: 'gateway', width: '108px' },
      { id: 'mac', width: '140px' },
      { id: 'hostName', width: '90px', hideNarrow: true },
      { id: 'school', width: '116px', hideNarrow: true },
    ],
    ladder: false,
  },
  {
    id: 'parts',
    name: 'Parts',
    columns: [
      { id: 'orderCode', width: '112px' },
      { id: 'orderCodeFound', width: '112px' },
      { id: 'serialNumber', width: '92px' },
      { id: 'firmwareFound', width: '66px' },
      { id: 'firmwareNeeded', width: '106px' },
      { id: 'place', width: '92px', hideNarrow: true },
    ],
    ladder: false,
  },
  {
    id: 'setting',
    name: 'Setting',
    columns: [
      { id: 'kind', width: '132px' },
      { id: 'isolation', width: '56px' },
      { id: 'setting', width: '112px' },
      { id: 'effective', width: '112px', hideNarrow: true },
      { id: 'startUp', width: '50px' },
      { id: 'nodes', width: '150px' },
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
