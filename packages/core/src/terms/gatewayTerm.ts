import {
  contains,
  formatIpv4,
  parseIpv4,
  parseMask,
  subnetOf,
  whoCanTalk,
  type Ipv4,
  type PrefixLength,
} from '../address'
import { ok } from '../units'
import { overIp } from './applying'
import { aloneApart, apart, equal, fits, type Told } from './relations'
import { customTerm } from './makeTerm'
import type { End, TermContext } from './term'

/** An address, or none: nothing leaves the subnet. */
type Gateway = Ipv4 | 'none'

/** Address and mask of an end, as far as both can be read. */
function placeOf(
  context: TermContext,
  end: End,
): { readonly address: Ipv4; readonly prefix: PrefixLength } | undefined {
  const address = parseIpv4(
    (end === 'controller' ? context.controllerAddress : context.terms.address?.device?.text) ?? '',
  )
  const prefix = parseMask(context.terms.mask?.[end]?.text ?? '')
  return address.ok && prefix.ok ? { address: address.value, prefix: prefix.value } : undefined
}

/** Whether both ends reach each other without anybody between; `undefined` where that is not known. */
function isDirect(context: TermContext): boolean | undefined {
  const [controller, device] = [placeOf(context, 'controller'), placeOf(context, 'device')]
  return controller && device ? whoCanTalk(controller, device).direct : undefined
}

const told: Told = {
  id: 'gateway',
  name: 'Default gateway',
  group: 'reach',
  explain:
    'The router that an end sends through to other subnets. Both ends need one where they lie in different subnets: the answer has to find its way back too.',
  relation: 'a route both ways, where the ends lie in different subnets',
  why: 'The question arrives, and the answer goes nowhere.',
  applies: overIp,
  asked: (context) => isDirect(context) === false,
  source: 'RFC 1122 3.3.1',
}

const text = (gateway: Gateway) => (gateway === 'none' ? 'none' : formatIpv4(gateway))

export const gatewayTerm = customTerm<Gateway>({
  ...told,
  relation: told.relation ?? '',
  example: '10.20.40.1',
  parse: (entry) => (/^(none|0\.0\.0\.0)$/i.test(entry.text.trim()) ? ok('none') : parseIpv4(entry.text)),
  format: text,
  alone: (gateway, end, context) => {
    const place = placeOf(context, end)
    if (gateway === 'none' || !place) return undefined
    if (gateway === place.address)
      return aloneApart(end, `${formatIpv4(gateway)} is ${context.tags[end]} itself.`, context)
    return contains(subnetOf(place.address, place.prefix), gateway)
      ? undefined
      : aloneApart(
          end,
          `${formatIpv4(gateway)} lies outside the subnet of ${context.tags[end]}: it is never reached.`,
          context,
        )
  },
  agree: (controller, device, context) => {
    const direct = isDirect(context)
    if (direct === true)
      return controller === device ? equal : fits('Both are neighbours: nothing goes through a router')
    if (controller === 'none' || device === 'none')
      return {
        ...apart(told, context, { controller: text(controller), device: text(device) }),
        why: `${controller === 'none' ? context.tags.controller : context.tags.device} has no gateway, and the other end lies in another subnet. ${told.why}`,
        fixes: [],
      }
    return fits(
      direct === false
        ? 'Each has a router in its own subnet; that it knows the other one, a ping shows'
        : 'Each has a router',
    )
  },
})
