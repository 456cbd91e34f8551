import { copyTrouble } from '@calm/core/cyclic'
import { parseWholeNumber } from '@calm/core/units'
import { useKept } from './useKept'
import { Field } from '../../ui'

const START = { bitsHere: '16', lengthHere: '', bitsThere: '16', lengthThere: '' }
const labels: Readonly<Record<keyof typeof START, string>> = {
  bitsHere: 'Bits of an element, from',
  lengthHere: 'Elements, from',
  bitsThere: 'Bits of an element, to',
  lengthThere: 'Elements, to',
}
const most: Readonly<Record<keyof typeof START, number>> = {
  bitsHere: 64,
  lengthHere: 65_536,
  bitsThere: 64,
  lengthThere: 65_536,
}
const keys = Object.keys(START) as (keyof typeof START)[]

/** A copy of many words in a program, tried out: both sides have to be alike. */
export function CopyOfWords({ handshakeId }: { handshakeId: string }) {
  const [typed, setTyped] = useKept(`copy.${handshakeId}`, START)
  return (
    <fieldset className="grid grid-cols-2 gap-2 border-t border-rule pt-2">
      <legend className="font-heavy">A copy of many words</legend>
      {keys.map((key) => {
        const read = parseWholeNumber(typed[key], { name: labels[key], min: 1, max: most[key] })
        return (
          <Field
            key={key}
            label={labels[key]}
            inputMode="numeric"
            typed
            value={typed[key]}
            trouble={read.ok || typed[key].trim() === '' ? undefined : read.refusal}
            onChange={(value) => setTyped({ ...typed, [key]: value })}
          />
        )
      })}
      <p className="col-span-2" role="status" aria-label="The copy">
        <CopyVerdict from={[typed.bitsHere, typed.lengthHere]} to={[typed.bitsThere, typed.lengthThere]} />
      </p>
    </fieldset>
  )
}

/** Whether two sides of a copy go together; nothing is said before all four numbers are there. */
function CopyVerdict({ from, to }: { from: readonly [string, string]; to: readonly [string, string] }) {
  const side = ([bits, length]: readonly [string, string]) => {
    const [elementBits, elements] = [
      parseWholeNumber(bits, { name: 'Bits of an element', min: 1, max: 64 }),
      parseWholeNumber(length, { name: 'Elements', min: 1, max: 65_536 }),
    ]
    return elementBits.ok && elements.ok ? { elementBits: elementBits.value, length: elements.value } : undefined
  }
  const [here, there] = [side(from), side(to)]
  if (!here || !there)
    return <span className="note">Not compared: bits and numbers of elements of both sides are needed.</span>
  const trouble = copyTrouble(here, there)
  return trouble === undefined ? (
    <span>
      Equal: {here.length} elements of {here.elementBits} bits on both sides.
    </span>
  ) : (
    <span className="text-odds">{trouble}</span>
  )
}
