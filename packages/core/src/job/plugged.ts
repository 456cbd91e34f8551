import { kindFacts, type ModuleImage } from '../kind'
import { groupedBy } from '../units'
import type { Device, Job } from './model'

/** A module of a row, with the bytes that it adds; `undefined` where nobody says them. */
export interface PluggedModule {
  readonly device: Device
  readonly image: ModuleImage | undefined
}

/** What a module adds to the image of its head: as its row says, as its kind says, or as the head's description file does. */
function imageOf(job: Job, module: Device, head: Device): ModuleImage | undefined {
  const { inputBytes, outputBytes } = module
  if (inputBytes !== null || outputBytes !== null) return { inputBytes: inputBytes ?? 0, outputBytes: outputBytes ?? 0 }
  const own = kindFacts(module.kind, job.kinds).image
  if (own) return own
  const names = [module.orderCode, module.what].filter((each) => each !== '').map(small)
  return kindFacts(head.kind, job.kinds).describedBy?.modules.find(({ name }) => names.includes(small(name)))
}
const small = (text: string) => text.trim().toLowerCase()

const indexes = new WeakMap<Job['devices'], ReadonlyMap<string | null, readonly Device[]>>()

/** The rows that hang behind a head without an address of their own, in the order of the list. */
export function devicesPluggedInto({ devices }: Pick<Job, 'devices'>, head: Pick<Device, 'id'>): readonly Device[] {
  let index = indexes.get(devices)
  if (!index) {
    const plugged = devices.filter(({ ports, unitId }) => ports.length === 0 && unitId === null)
    index = groupedBy(plugged, ({ behindId }) => behindId)
    indexes.set(devices, index)
  }
  return index.get(head.id) ?? []
}

/** The modules that hang behind a head, in the order of the list, with what each adds. */
export const pluggedInto = (job: Job, head: Device): readonly PluggedModule[] =>
  devicesPluggedInto(job, head).map((device) => ({ device, image: imageOf(job, device, head) }))

/** The sum of what all modules add; `undefined` where there are none, or where one of them says nothing. */
export function imageOfRow(modules: readonly PluggedModule[]): ModuleImage | undefined {
  if (modules.length === 0 || modules.some(({ image }) => image === undefined)) return undefined
  return modules.reduce<ModuleImage>(
    (sum, { image }) => ({
      inputBytes: sum.inputBytes + (image?.inputBytes ?? 0),
      outputBytes: sum.outputBytes + (image?.outputBytes ?? 0),
    }),
    { inputBytes: 0, outputBytes: 0 },
  )
}
