import { parseIpv4 } from '../address'
import { printable } from './encapsulation'

/** UDP port of names on the wire. @source RFC 6762, section 3 */
export const NAMES_PORT = 5353
/** What is asked: which services there are, and two that devices with a page offer. @source RFC 6763, section 9 */
export const nameQuestions: readonly string[] = [
  '_services._dns-sd._udp.local',
  '_http._tcp.local',
  '_modbus._tcp.local',
]

/** One record of an answer, as a library for names reads it. */
export interface NameRecord {
  readonly name: string
  readonly type: string
  readonly data?: unknown
}

export interface NameSeen {
  readonly address: string
  readonly hostName: string
  /** Names of its services, for example "Remote I/O head". */
  readonly services: readonly string[]
  /** What it says of them: model=..., serial=... */
  readonly texts: readonly string[]
}

/**
 * Who answered a question for names: each address with its host name, and the services of that host. Records that name
 * no address say nothing of who it is, and are left out.
 *
 * @source RFC 6762; service instances RFC 6763, section 4.1
 */
export function namesOf(records: readonly NameRecord[]): readonly NameSeen[] {
  const same = (a: string, b: string) => a.toLowerCase().replace(/\.$/, '') === b.toLowerCase().replace(/\.$/, '')
  return records.flatMap((record): readonly NameSeen[] => {
    if (record.type !== 'A' || typeof record.data !== 'string' || !parseIpv4(record.data).ok) return []
    const instances = records.filter(
      ({ type, data }) => type === 'SRV' && same((data as { target?: string } | undefined)?.target ?? '', record.name),
    )
    const services = instances.map(({ name }) => printable(name.replace(/\._[^.]+\._(tcp|udp)\.local\.?$/i, '')))
    const texts = records
      .filter(({ type, name }) => type === 'TXT' && instances.some((each) => same(each.name, name)))
      .flatMap(({ data }) => (Array.isArray(data) ? (data as readonly unknown[]) : [data]).map(textOf))
      .filter((text) => text !== '')
    return [
      {
        address: record.data,
        hostName: printable(record.name.replace(/\.local\.?$/i, '')),
        services: [...new Set(services)],
        texts: [...new Set(texts)],
      },
    ]
  })
}

const textOf = (data: unknown): string =>
  typeof data === 'string'
    ? printable(data)
    : data instanceof Uint8Array
      ? printable(new TextDecoder('latin1').decode(data))
      : ''
