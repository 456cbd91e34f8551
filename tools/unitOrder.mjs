// In which order the files of unit tests are begun.
import { statSync } from 'node:fs'
import Sequencer from '@jest/test-sequencer'

/** The files that take longest, as measured: begun first, so that none of them is alone at the end. */
const longest = [
  'wholeWalk.test.ts',
  'cuts.test.ts',
  'otherWays.test.ts',
  'jobFileFuzz.test.ts',
  'menuSession.test.ts',
  'changeList.test.ts',
  'label.test.ts',
]

/** These first, then by size, the largest first: how long each took before is not known on a new machine. */
export default class extends Sequencer {
  sort(tests) {
    const weight = ({ path }) => {
      const place = longest.findIndex((name) => path.endsWith(`/${name}`))
      return place < 0 ? statSync(path).size : Number.MAX_SAFE_INTEGER - place
    }
    return [...tests].sort((a, b) => weight(b) - weight(a))
  }
}
