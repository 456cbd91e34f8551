import { formatIpv4, formatMask } from '../address'
import { latestFact, plannedOf, portOf } from '../procedure'
import { differs, agrees, judged, notKnown, type CheckResult, type Look } from './model'
import type { Written } from './written'

/** What its serial menu showed, by the names under which it is kept. */
const shownValues = { address: 'address', mask: 'subnet mask', gateway: 'gateway' } as const

/**
 * What a device shows in its menu is what is planned for it: address, subnet mask, and gateway where one is planned.
 * What was read before its last wait ended says nothing of now: before a restart it still shows what it had.
 */
export function showsPlanned({ job, record, device }: Written): CheckResult {
  const waits = record.steps.filter((step) => step.wait !== null && step.stepKey.includes(` / ${device.id} `))
  const since = Math.max(0, ...waits.map((step) => step.at))
  const planned = plannedOf(job, device)
  const port = portOf(device)
  const gateway = port?.gateway ?? job.networks.find((network) => network.id === port?.networkId)?.gateway ?? ''
  const wanted = {
    address: planned ? formatIpv4(planned.address) : '',
    mask: planned ? formatMask(planned.prefix) : '',
    gateway,
  }
  const looks = (Object.keys(shownValues) as (keyof typeof shownValues)[])
    .filter((setting) => setting !== 'gateway' || gateway !== '')
    .map((setting): Look => {
      const name = shownValues[setting]
      const fact = latestFact(record, device.id, setting, 'found')
      if (wanted[setting] === '') return notKnown(`No ${name} is planned.`)
      if (!fact || fact.how !== 'read-live' || fact.at < since) return notKnown(`Its ${name} was not read in its menu.`)
      const say = `It shows ${name} ${fact.text}`
      return fact.text === wanted[setting] ? agrees(`${say}.`) : differs(`${say}; planned is ${wanted[setting]}.`)
    })
  return judged(looks, { how: 'read-live', needs: 'all' })
}
