import type { Device } from '../job'

/** Every place where the name of a device stands, the device first. */
export const namePlacesOf = ({ namePlaces }: Pick<Device, 'namePlaces'>): readonly string[] => [
  'the device itself',
  ...namePlaces.map(({ where }) => where),
]

/**
 * What name was read where, as one line: `the device itself = sup-801; server = sup-801`. A place is one of those that
 * are planned; one that is not named, or has nothing behind it, was not read.
 */
export function readNames(device: Device, note: string): readonly { readonly where: string; readonly text: string }[] {
  const places = namePlacesOf(device)
  return note.split(/[;\n]/).flatMap((part) => {
    const at = part.indexOf('=')
    const named = part.slice(0, Math.max(at, 0)).trim().toLowerCase()
    const where = places.find((place) => place.toLowerCase() === named)
    const text = part.slice(at + 1).trim()
    return where === undefined || at < 0 || text === '' ? [] : [{ where, text }]
  })
}
