import { parseHardwareAddress } from '../identity'
import type { Device } from '../job'
import { latestFact, PLUG_SHOWS, portOf } from '../procedure'
import { agrees, differs, notKnown, type Look } from './model'
import type { SeenAt } from './seen'
import { isSameCode, type Written } from './written'

/** What tells who answers, and whether one thing is enough. */
interface WhoAnswers {
  readonly looks: readonly Look[]
  readonly needs: 'one' | 'all'
}

/**
 * Who it is that answers at an address. What only this box has (serial number, hardware address, what it alone said
 * before) is enough by itself. An order code or a name is weaker: with anything beside it that is not understood (a code
 * that nobody knows, the name of another) it decides nothing. Which box it is, as somebody saw it before, says nothing of
 * who answers now.
 */
export function identityLooks(whom: Written, seen: SeenAt): WhoAnswers {
  const own = ownLooks(whom, seen)
  const weak = weakLooks(whom, seen)
  const looks = [...own, ...weak]
  const box = latestFact(whom.record, whom.device.id, 'identity')
  if (looks.length === 0 && box)
    return {
      looks: [
        notKnown(
          `Which box ${whom.device.tag} is, is known (${box.text}); that it is the one that answers was not seen.`,
        ),
      ],
      needs: 'one',
    }
  return { looks, needs: own.some(({ state }) => state === 'agrees') ? 'one' : 'all' }
}

const mac = (text: string) => {
  const read = parseHardwareAddress(text)
  return read.ok ? read.value : text.trim().toUpperCase()
}

/** What no other box has. */
function ownLooks({ job, record, device }: Written, seen: SeenAt): readonly Look[] {
  const looks: Look[] = []
  const [identity] = seen.identities
  if (identity) {
    const all = [device, ...job.devices.filter((each) => each.id !== device.id)]
    const withSerial = all.find((each) => each.serialNumber !== '' && identity.parts.includes(each.serialNumber))
    if (withSerial)
      looks.push(
        withSerial.id === device.id
          ? agrees(`Serial number: ${device.serialNumber}.`)
          : differs(`The serial number of ${withSerial.tag} answers at ${seen.address}.`),
      )
    const before = latestFact(record, device.id, 'says')?.text
    if (before !== undefined)
      looks.push(
        before === identity.text
          ? saysTheSame({ job, record, device }, before)
          : differs(`It says "${identity.text}"; at its old address it said "${before}".`),
      )
  }
  if (latestFact(record, device.id, PLUG_SHOWS)?.text === seen.address)
    looks.push(agrees(`Its plug was pulled, and ${seen.address} went silent.`))
  const known = latestFact(record, device.id, 'mac')?.text || portOf(device)?.mac
  if (known && seen.hardwareAddress)
    looks.push(
      mac(known) === mac(seen.hardwareAddress)
        ? agrees(`Hardware address: ${known}.`)
        : differs(`${seen.hardwareAddress} answers at ${seen.address}; ${device.tag} is ${known}.`),
    )
  const heard = latestFact(record, device.id, 'heard')?.text
  if (heard !== undefined && seen.hardwareAddress)
    looks.push(
      mac(heard) === mac(seen.hardwareAddress)
        ? agrees('Its hardware address is the one that was heard at its old address.')
        : differs(`${seen.hardwareAddress} answers at ${seen.address}; at its old address it was ${heard}.`),
    )
  return looks
}

/** Boxes of one kind often say the same: then it does not tell which of them answers. */
function saysTheSame({ job, record, device }: Written, text: string): Look {
  const twin = job.devices.find((each) => each.id !== device.id && latestFact(record, each.id, 'says')?.text === text)
  return twin
    ? notKnown(`It says what it said at its old address, and so does ${twin.tag}.`)
    : agrees('It says what it said at its old address.')
}

/** What several boxes may have: an order code, a name. */
function weakLooks({ job, device }: Written, seen: SeenAt): readonly Look[] {
  const [identity] = seen.identities
  if (!identity) return []
  const { productCode, parts } = identity
  const others = job.devices.filter((each) => each.id !== device.id)
  const codeOf = (each: Device) => each.orderCodeFound || each.orderCode
  const looks: Look[] = []
  const own = codeOf(device)
  if (productCode !== '' && own !== '') {
    const other = others.find((each) => codeOf(each) !== '' && isSameCode(codeOf(each), productCode))
    if (isSameCode(own, productCode))
      looks.push(
        other
          ? notKnown(`Order code: "${productCode}", as ${other.tag} has it too.`)
          : agrees(`Order code: "${productCode}".`),
      )
    else if (other)
      looks.push(
        differs(`"${productCode}" answers at ${seen.address}: the order code of ${other.tag}, not of ${device.tag}.`),
      )
    else looks.push(notKnown(`It says "${productCode}"; whether that is "${own}" is not known.`))
  }
  if (parts.includes(device.tag)) looks.push(agrees(`It is called ${device.tag}.`))
  const called = others.find((each) => parts.includes(each.tag))
  if (called) looks.push(notKnown(`It is called ${called.tag}.`))
  return looks
}
