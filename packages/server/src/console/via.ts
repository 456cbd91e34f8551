import { formatIpv4, parseIpv4 } from '@calm/core/address'
import type { Problem } from '@calm/contract'
import type { Job } from '@calm/core/job'
import { portOf, presentOf } from '@calm/core/procedure'
import type { Bench } from '@calm/bench'
import { targetOf } from '../live'
import { serialSettings } from '../serial'
import type { Store } from '../store'
import { openSerial, openTcp, type Transport, type TransportEvents } from './transport'

/** Where consoles may go to. */
export interface WaysOut {
  readonly store: Store
  readonly bench: Bench | undefined
}

export class ConsoleRefusal extends Error {
  constructor(readonly problem: Problem) {
    super(problem.what)
  }
}

/** @example 'serial:/dev/ttyUSB0:9600 8N1', 'tcp:10.20.40.61:23', 'bench:UPS-401' */
export async function openVia(context: WaysOut, job: Job, via: string, events: TransportEvents): Promise<Transport> {
  const refuse = (what: string, expected: string): never => {
    throw new ConsoleRefusal({ what, where: 'via', expected, found: via })
  }
  const bench = /^bench:(.+)$/.exec(via)
  if (bench) {
    const front = job.mode === 'bench' ? context.bench?.fronts().find((each) => each.tag === bench[1]) : undefined
    const [host, port] = (front?.console ?? '').split(':')
    if (!host || !port)
      return refuse('There is no serial socket of that name on the bench.', 'a stand-in with a serial socket')
    return openTcp(host, Number(port), events)
  }
  const serial = /^serial:(.+):([^:]+)$/.exec(via)
  if (serial) {
    const settings = serialSettings(serial[2] ?? '')
    if (!settings) return refuse(`"${serial[2]}" is not the setting of a line.`, 'for example 9600 8N1')
    if (job.mode === 'bench')
      return refuse('On the bench no real port is opened.', 'a stand-in; or the job on the plant')
    return openSerial(serial[1] ?? '', settings, events)
  }
  const tcp = /^tcp:([\d.]+):(\d{1,5})$/.exec(via)
  if (!tcp) return refuse('That is not a way to a console.', 'a serial port, or an address and port')
  const [address, port] = [tcp[1] ?? '', Number(tcp[2])]
  const record = await context.store.walks.get(job.id)
  const known = job.devices.flatMap((device) => {
    const present = presentOf(job, record, device)
    return [portOf(device)?.address ?? '', present ? formatIpv4(present.address) : '']
  })
  if (!parseIpv4(address).ok || port < 1 || port > 65_535 || !known.includes(address))
    return refuse(
      'A console goes to a device of this job only.',
      'the present or planned address of one of its devices',
    )
  const target = targetOf(context.bench, job.mode, address, port)
  return target ? openTcp(target.host, target.port, events) : refuse('The bench is not running.', 'the bench')
}
