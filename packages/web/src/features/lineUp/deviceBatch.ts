import type { DeviceBatch } from '@calm/contract'
import type { DeviceRowReading, Job } from '@calm/core/job'

/** Rows that could be read, as they travel. A device that hangs behind another one has no port of its own. */
export function batchOf(readings: readonly DeviceRowReading[], job: Job, networkId: string): DeviceBatch {
  const network = job.networks.find((each) => each.id === networkId)
  return {
    devices: readings.flatMap(({ device }) => {
      if (!device) return []
      const { address, behindTag, ...fields } = device
      const port =
        behindTag !== null && address === null
          ? null
          : {
              name: 'Ethernet',
              networkId: network?.id ?? null,
              address,
              prefix: null,
              gateway: network?.gateway ?? null,
              tcpPort: 502,
            }
      return [{ ...fields, behindTag, port }]
    }),
  }
}
