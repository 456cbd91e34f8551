import type { Device } from '../job'

/** The planned address of a device of which nobody said which network it is in; `undefined` where all is said. */
export function networkUnsaid(device: Device): string | undefined {
  const withAddress = device.ports.filter(({ address }) => address !== null)
  return withAddress.every(({ networkId }) => networkId === null) ? (withAddress[0]?.address ?? undefined) : undefined
}
