import { overIp, speaksModbus } from './applying'
import { formatMask, parseIpv4, parseMask, whoCanTalk, type PrefixLength } from '../address'
import { takeOver } from './fixes'
import type { TermContext, TermDefinition } from './term'

/** Own addresses of both ends, where they can be read. */
function addresses(context: TermContext) {
  const controller = parseIpv4(context.controllerAddress ?? '')
  const device = parseIpv4(context.terms.address?.device?.text ?? '')
  return controller.ok && device.ok ? { controller: controller.value, device: device.value } : undefined
}

export const maskTerm: TermDefinition<PrefixLength> = {
  id: 'mask',
  name: 'Subnet mask',
  group: 'reach',
  relation: 'each takes the other for a neighbour, or both for far away',
  why: 'One end answers straight, the other through a router: nothing comes back.',
  severity: 'never',
  applies: overIp,
  asked: speaksModbus,
  explain: 'Which addresses each end takes for neighbours. Each end judges by its own mask.',
  example: '255.255.255.0',
  parse: (entry) => parseMask(entry.text),
  format: (value) => formatMask(value),
  agree: (controller, device, context) => {
    const both = addresses(context)
    const talk = both
      ? whoCanTalk({ address: both.controller, prefix: controller }, { address: both.device, prefix: device })
      : undefined
    const fixes = () =>
      takeOver('mask', 'The mask', context, { controller: formatMask(controller), device: formatMask(device) })
    if (talk?.direct && controller !== device) {
      return { state: 'fits', remark: 'Different masks, yet each takes the other for a neighbour' }
    }
    if (talk && !talk.direct && talk.there !== 'self') {
      const { tags } = context
      const why = talk.oneWay
        ? talk.there === 'direct'
          ? `${tags.controller} reaches ${tags.device}; by its own mask ${tags.device} cannot answer straight back.`
          : `By its own mask ${tags.controller} does not see ${tags.device} as a neighbour, though ${tags.device} sees it.`
        : `Neither takes the other for a neighbour: they are in different subnets by their masks.`
      return controller === device
        ? { state: 'fits', remark: 'Equal, but in different subnets: a router is needed' }
        : { state: 'at-odds', why, fixes: fixes() }
    }
    return controller === device
      ? { state: 'equal' }
      : { state: 'at-odds', why: 'Two ends of one subnet should have one mask.', fixes: fixes() }
  },
  source: 'RFC 1122 3.3.1.1',
}
