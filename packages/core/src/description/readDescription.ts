import { ok, refuse, type Result } from '../units'
import { readCan } from './can'
import { readCip } from './cip'
import type { DescriptionProblem, DeviceDescription } from './description'
import { isGsd, readGsd } from './gsd'
import { readSections } from './sections'

/** A file of more than this is no description that people write; the largest that are known have some hundred kB. */
export const MOST_BYTES = 2 * 1024 * 1024

const whole = (what: string, found: string, expected: string): DescriptionProblem => ({
  code: 'description.file',
  line: 1,
  what,
  found,
  expected,
  offers: [],
})

const EXPECTED = 'an EDS of a CIP device, an EDS or DCF by CiA 306, or a GSD'

/** Why a file of this size is not read. */
export const tooLarge = (bytes: number): DescriptionProblem =>
  whole(`The file has ${Math.round(bytes / 1024)} kB.`, `${bytes} bytes`, `at most ${MOST_BYTES / 1024} kB`)

/** Signs that no text file has: they come with a picture, an archive or a program. */
// eslint-disable-next-line no-control-regex
const BINARY = /[\u0000-\u0008\u000e-\u001f]/

/**
 * Reads a description file by what stands in it; its name tells nothing.
 * @returns every problem with its line; a file with one is not taken
 */
export function readDescription(text: string): Result<DeviceDescription, readonly DescriptionProblem[]> {
  if (text.length > MOST_BYTES) return refuse([tooLarge(text.length)])
  const odd = BINARY.exec(text)
  if (odd) {
    const line = text.slice(0, odd.index).split('\n').length
    return refuse([
      {
        ...whole(
          `Line ${line}: a sign that no text has. This is no description file, or it was damaged on its way.`,
          `code ${odd[0].charCodeAt(0)}`,
          EXPECTED,
        ),
        line,
      },
    ])
  }
  if (text.trim() === '') return refuse([whole('The file is empty.', 'nothing', EXPECTED)])
  if (isGsd(text)) {
    const read = readGsd(text)
    return 'problems' in read ? refuse(read.problems) : ok(read)
  }
  const isCan = /^\s*\[DeviceInfo\]/im.test(text)
  const isCip = /^\s*\[Device\]/im.test(text)
  if (!isCan && !isCip)
    return refuse([whole('This is no description file that is known here.', text.trim().slice(0, 60), EXPECTED)])
  const sections = isCan
    ? readSections(text, { comment: ';', ends: '' })
    : readSections(text, { comment: '$', ends: ';' })
  if (sections.problems.length > 0) return refuse(sections.problems)
  return ok(isCan ? readCan(sections) : readCip(sections))
}
