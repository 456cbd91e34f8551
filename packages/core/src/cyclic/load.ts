/**
 * What goes around the data of one cyclic message, in bytes: preamble and gap of Ethernet, its header and check, IPv4,
 * UDP, and the two items that tell which connection it belongs to.
 * @source IEEE 802.3 (8 preamble, 14 header, 4 check, 12 gap, 46 least), RFC 791 (20), RFC 768 (8); items of a class 1
 * connection (2 count, 12 address, 4 data head, 2 sequence) from memory
 */
export const around = {
  preamble: 8,
  header: 14,
  check: 4,
  gap: 12,
  leastPayload: 46,
  ip: 20,
  udp: 8,
  items: 2 + 12 + 4 + 2,
  /** In front of the outputs, where the controller says whether it runs. */
  runIdle: 4,
} as const

/** One cyclic connection. Sizes in bytes, the interval in ms. */
export interface CyclicExchange {
  readonly inputBytes: number
  readonly outputBytes: number
  readonly intervalMs: number
  /** Whether a header that says run or idle goes in front of the outputs. */
  readonly hasRunIdle: boolean
}

/** Bytes that one message takes on the wire, everything around it included. */
export function wireBytes(data: number): number {
  const payload = Math.max(around.leastPayload, around.ip + around.udp + around.items + data)
  return around.preamble + around.header + payload + around.check + around.gap
}

/** What a connection costs, by the second. */
export interface CyclicLoad {
  /** Messages both ways together. */
  readonly packets: number
  /** Bytes of data that the plant wanted, both ways together. */
  readonly dataBytes: number
  /** Bytes on the wire towards the controller, and from it. */
  readonly towards: number
  readonly from: number
}

export function cyclicLoad({ inputBytes, outputBytes, intervalMs, hasRunIdle }: CyclicExchange): CyclicLoad {
  const perSecond = 1000 / intervalMs
  return {
    packets: 2 * perSecond,
    dataBytes: (inputBytes + outputBytes) * perSecond,
    towards: wireBytes(inputBytes) * perSecond,
    from: wireBytes(outputBytes + (hasRunIdle ? around.runIdle : 0)) * perSecond,
  }
}

/** Loads of several connections of one controller, added. */
export const addLoads = (loads: readonly CyclicLoad[]): CyclicLoad =>
  loads.reduce(
    (sum, each) => ({
      packets: sum.packets + each.packets,
      dataBytes: sum.dataBytes + each.dataBytes,
      towards: sum.towards + each.towards,
      from: sum.from + each.from,
    }),
    { packets: 0, dataBytes: 0, towards: 0, from: 0 },
  )

/** Share of a link in its busier direction, both being free at once; 1 is all of it. @param rate in Mbit/s */
export const shareOfLink = ({ towards, from }: CyclicLoad, rate: number): number =>
  (Math.max(towards, from) * 8) / (rate * 1e6)

/** What a fixed image carries for nothing: bytes of data by the second that nobody uses, and their share. */
export function wasteOf(exchange: CyclicExchange, usedBytes: { readonly inputs: number; readonly outputs: number }) {
  const all = exchange.inputBytes + exchange.outputBytes
  const used = Math.min(all, usedBytes.inputs + usedBytes.outputs)
  return { bytes: ((all - used) * 1000) / exchange.intervalMs, share: all === 0 ? 0 : (all - used) / all }
}

/** Age of a value when the program uses it, in ms. */
export interface CyclicAge {
  readonly best: number
  /** The mean. */
  readonly typical: number
  readonly worst: number
}

/**
 * Age of an input when the controller's task reads it: it was taken when its message left, waited for the next message
 * at most one interval, and for the task at most one period; both run free of each other.
 */
export function ageAtTask(
  exchange: Pick<CyclicExchange, 'intervalMs' | 'inputBytes'>,
  taskMs: number,
  rate: number,
): CyclicAge {
  const wire = (wireBytes(exchange.inputBytes) * 8) / (rate * 1000)
  return {
    best: wire,
    typical: wire + exchange.intervalMs / 2 + taskMs / 2,
    worst: wire + exchange.intervalMs + taskMs,
  }
}
