import type { Making } from './making'
import { stopOf } from './making'
import type { Stop } from './model'

/** What comes when everything else has been walked: the program of a controller, once what it talks to is there. */
export function lastStops(making: Making): readonly Stop[] {
  const { job } = making
  return [...making.walked].flatMap((id) => {
    const device = job.devices.find((each) => each.id === id)
    if (!device) return []
    const key = `last ${id}`
    const steps = making.deviceSteps(key, device, ['last'])
    if (steps.length === 0) return []
    const title = `Last: ${device.tag}, ${device.what}`
    return [stopOf({ key, title, reason: 'What it talks to has been walked.', devices: [device], steps })]
  })
}
