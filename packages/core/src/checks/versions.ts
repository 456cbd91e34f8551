import { isVersion, versionFits, type VersionRelation } from '../identity'
import { agrees, differs, notKnown, type Look } from './model'

/** A version that was found against one that is asked for; what names no version is compared with nothing. */
export function lookAtVersion(tag: string, found: string, relation: VersionRelation, asked: string): Look {
  const wanted = `${relation.replace('-', ' ')} ${asked}`
  if (found === '') return notKnown(`The firmware of ${tag} is not written down yet; asked for: ${wanted}.`)
  const odd = [found, asked].find((each) => !isVersion(each))
  if (odd !== undefined) return notKnown(`"${odd}" is no version that could be compared; asked for: ${wanted}.`)
  const say = `${tag} has ${found}, asked for: ${wanted}.`
  return versionFits(found, relation, asked) ? agrees(say) : differs(say)
}
