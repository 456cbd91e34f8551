import { randomBytes } from 'node:crypto'
import { createSocket, type Socket } from 'node:dgram'
import type { Bench } from '@calm/bench'
import type { ListenView, ListenWay } from '@calm/contract/api'
import { formatIpv4, ipv4, ipv4FromBits, prefixLength, subnetOf } from '@calm/core/address'
import {
  addressText,
  ASK_EVERY_SECONDS,
  hitsOf,
  CONTEXT_BYTES,
  IDENTITY_PORT,
  identityWords,
  LEASE_PORT,
  LISTEN_SECONDS,
  listIdentityRequest,
  nameQuestions,
  NAMES_PORT,
  namesOf,
  readLeaseRequest,
  readListIdentityReply,
  serialText,
  type HeardBy,
  type NameRecord,
  type Sighting,
} from '@calm/core/discovery'
import type { Job } from '@calm/core/job'
import type { LaptopState } from '@calm/core/procedure'
import multicastDns from 'multicast-dns'
import { laptopState } from '../laptop'
import type { LiveContext } from '../live'
import { refusedBecause } from '../store'
import { Sightings } from './sightings'

/** Records of one answer that are looked at: a device has some for each of its services. Common practice, no source. */
const MOST_RECORDS = 200

/** Listens for whoever shows itself, whatever address it has: one listening at a time for each job. */
export class Listenings {
  readonly #running = new Map<string, Listening>()

  constructor(readonly context: LiveContext) {}

  of(jobId: string): ListenView | undefined {
    return this.#running.get(jobId)?.view
  }

  async begin(job: Job, finished: (view: ListenView) => void): Promise<ListenView> {
    if (this.of(job.id)?.state === 'listening')
      throw refusedBecause('Somebody listens already.', 'one at a time', 'another one', 'state')
    const listening = new Listening(job, this.context, finished)
    this.#running.set(job.id, listening)
    await listening.begin()
    return listening.view
  }

  /** Ends a listening before its time; what was heard stays. */
  stop(jobId: string): void {
    this.#running.get(jobId)?.end('stopped')
  }

  close(): void {
    for (const each of this.#running.values()) each.end('stopped')
  }
}

class Listening {
  readonly #ends: (() => void)[] = []
  readonly #asks: (() => number)[] = []
  readonly #ways: ListenWay[] = []
  readonly #sightings: Sightings
  readonly #context = randomBytes(CONTEXT_BYTES)
  readonly #startedAt: number
  #rounds = 0
  #sent = 0
  #refused = 0
  #state: ListenView['state'] = 'listening'
  #endedAt = 0
  #timer: NodeJS.Timeout | undefined

  constructor(
    readonly job: Job,
    readonly around: LiveContext,
    readonly finished: (view: ListenView) => void,
  ) {
    this.#startedAt = around.clock()
    this.#sightings = new Sightings(around.clock)
  }

  get view(): ListenView {
    const now = this.#state === 'listening' ? this.around.clock() : this.#endedAt
    return {
      startedAt: this.#startedAt,
      seconds: Math.min(LISTEN_SECONDS, Math.round((now - this.#startedAt) / 1000)),
      of: LISTEN_SECONDS,
      rounds: this.#rounds,
      sent: this.#sent,
      refused: this.#refused + this.#sightings.leftOut,
      state: this.#state,
      ways: this.#ways,
      hits: hitsOf(this.#sightings.list),
    }
  }

  async begin(): Promise<void> {
    const bench = this.job.mode === 'bench' ? this.around.bench : undefined
    const laptop = await laptopState(this.job.mode, bench)
    if (bench) await this.#openOnBench(bench)
    else await this.#openOnPlant(laptop)
    const canSee = laptop.neighbours !== null
    this.#way('neighbour', canSee, canSee ? 'looked at again each time' : laptop.notes.join(' '))
    await this.#round()
    this.#timer = setInterval(() => void this.#round().catch(() => undefined), ASK_EVERY_SECONDS * 1000)
    this.#timer.unref()
  }

  end(state: 'over' | 'stopped'): void {
    if (this.#state !== 'listening') return
    this.#endedAt = this.around.clock()
    this.#state = state
    clearInterval(this.#timer)
    for (const end of this.#ends.splice(0)) end()
    this.finished(this.view)
  }

  async #round(): Promise<void> {
    if (this.#state !== 'listening') return
    if ((this.around.clock() - this.#startedAt) / 1000 >= LISTEN_SECONDS) return this.end('over')
    this.#rounds += 1
    for (const ask of this.#asks) this.#sent += ask()
    const { neighbours } = await laptopState(this.job.mode, this.job.mode === 'bench' ? this.around.bench : undefined)
    for (const { address, hardwareAddress } of neighbours ?? [])
      if (!/^00(:00)+$/.test(hardwareAddress)) this.#saw('neighbour', address, [{ address, hardwareAddress }])
  }

  async #openOnBench(bench: Bench): Promise<void> {
    const places = bench.wire.places
    if (!places) return this.#way('identity', false, 'The bench does not run.')
    const real = (host: string) => bench.servedAt(host) ?? host
    await this.#askWho('127.0.0.1', [places.identity.host], places.identity.port, real)
    await this.#askNames('127.0.0.1', { ip: places.name.host, port: places.name.port, multicast: false })
    this.#way('identity', true, 'bench0')
    this.#way('name', true, 'bench0')
    const leases = await udp('127.0.0.1', 0)
    if (!leases) return this.#way('lease', false, 'No free port on this machine.')
    this.#hearLeases(leases)
    this.#ends.push(bench.wire.listenForLeases(leases.address().port))
    this.#way('lease', true, 'bench0')
  }

  async #openOnPlant(laptop: LaptopState): Promise<void> {
    const adapters = laptop.interfaces.filter(({ loopback, link }) => !loopback && link !== false)
    const names = adapters.map(({ name }) => name).join(', ')
    const none = 'No adapter with a link has an address.'
    for (const { address, prefix } of adapters) {
      const directed = everybodyIn(address, prefix)
      await this.#askWho(address, ['255.255.255.255', directed], IDENTITY_PORT, (host) => host)
      await this.#askNames(address, {
        interface: address,
        // Bound to one address, a socket hears nothing that is sent to a group.
        bind: '0.0.0.0',
        port: NAMES_PORT,
        loopback: false,
      })
    }
    this.#way('identity', adapters.length > 0, names || none)
    if (adapters.length === 0) this.#way('name', false, none)
    else if (!this.#ways.some(({ by }) => by === 'name')) this.#way('name', true, names)
    const leases = await udp('0.0.0.0', LEASE_PORT)
    if (leases) this.#hearLeases(leases)
    this.#way(
      'lease',
      leases !== undefined,
      leases ? `port ${LEASE_PORT}` : `Port ${LEASE_PORT} cannot be opened here: it needs rights, or a server has it.`,
    )
  }

  /** What is closed after all counts more than what was thought to be open. */
  #way(by: HeardBy, open: boolean, note: string): void {
    const place = this.#ways.findIndex((way) => way.by === by)
    if (place < 0) this.#ways.push({ by, open, note })
    else if (!open) this.#ways[place] = { by, open, note }
  }

  async #askWho(own: string, to: readonly string[], port: number, real: (host: string) => string): Promise<void> {
    const socket = await udp(own, 0)
    if (!socket) return
    socket.setBroadcast(true)
    socket.on('message', (message, from) => {
      const read = readListIdentityReply(message, this.#context)
      if (!read.ok) return void (this.#refused += 1)
      const { identity } = read
      const said = addressText(identity)
      const came = real(from.address)
      const odd = said === came ? '' : `; it says ${said}, the answer came from ${came}`
      this.#saw('identity', from.address, [
        {
          address: came.startsWith('127.') ? said : came,
          says: `${identityWords(identity)}${came.startsWith('127.') ? '' : odd}`,
          serialNumber: serialText(identity),
          orderCode: identity.productName,
          firmware: `${identity.revision.major}.${identity.revision.minor}`,
        },
      ])
    })
    const question = listIdentityRequest(this.#context)
    this.#asks.push(() => {
      for (const host of to) socket.send(question, port, host, () => undefined)
      return to.length
    })
    this.#ends.push(() => socket.close())
  }

  async #askNames(
    own: string,
    place: { ip?: string; port: number; multicast?: boolean; interface?: string; loopback?: boolean; bind?: string },
  ): Promise<void> {
    // On the bench the question goes to one place, from a port of its own.
    const socket = place.multicast === false ? await udp(own, 0) : undefined
    const names = multicastDns({ ...place, ...(socket && { socket, bind: false as unknown as string }) })
    names.on('error', (reason: NodeJS.ErrnoException) =>
      this.#way('name', false, `Not possible here (${reason.code ?? reason.message}).`),
    )
    names.on('warning', () => undefined)
    names.on('response', ({ answers, additionals }, from) => {
      const records = [...(answers ?? []), ...(additionals ?? [])].slice(0, MOST_RECORDS) as readonly NameRecord[]
      this.#saw(
        'name',
        from.address,
        namesOf(records).map((seen) => {
          const of = (key: RegExp) => seen.texts.find((text) => key.test(text))?.split('=')[1] ?? ''
          return {
            address: seen.address,
            says: [seen.hostName, ...seen.services].join(', '),
            serialNumber: of(/^serial(number)?=/i),
            orderCode: of(/^model=/i),
            firmware: of(/^(firmware|version)=/i),
          }
        }),
      )
    })
    this.#asks.push(() => {
      names.query(nameQuestions.map((name) => ({ name, type: 'PTR' as const })))
      return 1
    })
    this.#ends.push(() => names.destroy())
  }

  #hearLeases(socket: Socket): void {
    socket.on('message', (message) => {
      const read = readLeaseRequest(message)
      if (!read.ok) return void (this.#refused += 1)
      const { hardwareAddress, address, hostName, vendorClass } = read.request
      this.#saw('lease', hardwareAddress, [
        {
          address,
          hardwareAddress,
          says: ['asks for an address', hostName, vendorClass].filter((text) => text !== '').join(', '),
        },
      ])
    })
    this.#ends.push(() => socket.close())
  }

  #saw(by: HeardBy, sender: string, what: readonly Partial<Sighting>[]): void {
    if (this.#state === 'listening') this.#sightings.addAnswer(by, sender, what)
  }
}

/** The broadcast address of the subnet that an adapter is in. */
const everybodyIn = (address: string, prefix: number): string =>
  formatIpv4(ipv4FromBits((subnetOf(ipv4(address), prefixLength(prefix)).base + 2 ** (32 - prefix) - 1) >>> 0))

/** A socket that is bound, or none where the system does not let it be. */
function udp(address: string, port: number): Promise<Socket | undefined> {
  const socket = createSocket({ type: 'udp4', reuseAddr: port !== 0 })
  return new Promise((done) => {
    socket.once('error', () => {
      socket.close()
      done(undefined)
    })
    socket.bind({ address, port }, () => {
      socket.removeAllListeners('error')
      socket.on('error', () => undefined)
      socket.unref()
      done(socket)
    })
  })
}
