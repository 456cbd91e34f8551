import { Socket } from 'node:net'
import { setTimeout as pause } from 'node:timers/promises'
import { protocolAddress } from '@calm/core/modbus'
import { benchHost } from '../addressBook'
import { BenchSwitch } from './benchSwitch'
import { deliveredFronts } from './delivered'
import type { FrontDevice } from './front'
import { refusedSettings } from './page'

/** A clock that is set by hand, and fronts that start in real seconds of it. */
function bench(speed = 1) {
  let now = 1_000_000
  const fronts = deliveredFronts({ clock: () => now, speed: () => speed })
  const front = (tag: string): FrontDevice => {
    const found = fronts.find((each) => each.facts.tag === tag)
    if (!found) throw new Error(tag)
    return found
  }
  return { front, fronts, pass: (seconds: number) => (now += seconds * 1000) }
}

const identity = { code: 43, category: 'regular', object: 0 } as const

describe('power', () => {
  test('a device has an address and answers only after its start-up time', () => {
    const { front, pass } = bench()
    const drive = front('PD-101')
    expect([drive.running, drive.display()]).toEqual([false, null])
    drive.setPower(true)
    pass(24)
    expect([drive.running, drive.display()]).toEqual([false, 'starting'])
    pass(1)
    expect([drive.running, drive.display()]).toEqual([true, 'ready'])
    drive.setPower(false)
    expect(drive.lamps()).toContainEqual({ lamp: 'Display', words: 'is dark' })
  })

  test('things may start faster than real ones', () => {
    const { front, pass } = bench(100)
    front('SUP-801').setPower(true)
    pass(3)
    expect(front('SUP-801').running).toBe(true)
  })

  test('a supervisory controller restarts when its button is held long enough, not before', () => {
    const { front, pass } = bench()
    const supervisor = front('SUP-801')
    supervisor.setPower(true)
    pass(300)
    supervisor.press('restart', 1)
    expect(supervisor.running).toBe(true)
    supervisor.press('restart', 3)
    expect(supervisor.startsIn()).toBe(300)
    expect(supervisor.press('nothing', 3)).toBe(false)
  })
})

describe('a drive at its keypad', () => {
  const on = () => {
    const made = bench()
    made.front('PD-101').setPower(true)
    made.pass(25)
    return { ...made, drive: made.front('PD-101') }
  }

  test('takes a setting in local only, and uses it only after power off and on', () => {
    const { drive, pass } = on()
    drive.press('menu', 0)
    drive.press('up', 0)
    expect(drive.display()).toBe('address 1: 192')
    drive.turn('mode', 'local')
    drive.press('up', 0)
    expect(drive.display()).toBe('address 1: 193')
    expect(drive.address()).toBe('192.168.1.20')
    drive.setPower(false)
    drive.setPower(true)
    pass(25)
    expect(drive.address()).toBe('193.168.1.20')
  })

  test('goes round from 255 to 0, through all four parameters and back to its state', () => {
    const { drive } = on()
    drive.turn('mode', 'local')
    for (let octet = 0; octet < 4; octet += 1) drive.press('menu', 0)
    for (let step = 0; step < 24; step += 1) drive.press('ten-up', 0)
    expect(drive.display()).toBe('address 4: 004')
    drive.press('menu', 0)
    expect(drive.display()).toBe('ready')
    expect(drive.turn('mode', 'sideways')).toBe(false)
  })

  test('is as it was delivered when the bench says so', () => {
    const { drive } = on()
    drive.turn('mode', 'local')
    drive.deliver()
    expect([drive.power, drive.address(), drive.switches()[0]?.value]).toEqual([false, '192.168.1.20', 'remote'])
  })
})

describe('a row of modules', () => {
  test('the order in which buttons are held is the order of addresses; short presses and presses out of a search count for nothing', () => {
    const { front, pass } = bench()
    const row = front('MH-510')
    row.setPower(true)
    pass(20)
    row.press('MM-511', 2.5)
    expect(row.answer(1, identity)).toBeUndefined()
    row.press('search', 0)
    row.press('MM-513', 2.5)
    row.press('MM-511', 0.4)
    row.press('MM-512', 2)
    expect(row.answer(1, identity)).toMatchObject({ objects: expect.arrayContaining([{ id: 5, text: 'MM-513' }]) })
    expect(row.answer(2, identity)).toMatchObject({ objects: expect.arrayContaining([{ id: 5, text: 'MM-512' }]) })
    expect(row.answer(3, identity)).toBeUndefined()
    expect(row.lamps()).toContainEqual({ lamp: 'MM-511 bus', words: 'flashes green twice a second' })
    expect(row.answer(2, { code: 4, address: protocolAddress(0), count: 1 })).toMatchObject({ words: [200] })
  })
})

describe('the menu of a card', () => {
  /** Types lines one after the other and returns everything that was shown. */
  async function talk(card: FrontDevice, lines: readonly string[]): Promise<string> {
    const { createServer } = await import('node:net')
    const server = createServer((socket) => card.console()?.(socket))
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
    const address = server.address()
    const socket = new Socket()
    let seen = ''
    socket.on('data', (bytes) => (seen += bytes.toString('latin1')))
    socket.connect(typeof address === 'object' && address ? address.port : 0, '127.0.0.1')
    await new Promise((done) => socket.once('connect', done))
    for (const line of lines) {
      socket.write(`${line}\r`)
      // The answer is whole when nothing more has come for a while.
      for (let before = -1; before !== seen.length;) {
        before = seen.length
        await pause(25)
      }
    }
    socket.destroy()
    server.close()
    return seen
  }
  const ready = () => {
    const made = bench()
    const card = made.front('UPS-401')
    card.setPower(true)
    made.pass(150)
    return { ...made, card }
  }
  const login = ['', 'admin', 'secret']

  test('shows the old values when it confirms, and comes up at the new address after its restart', async () => {
    const { card, pass } = ready()
    const seen = await talk(card, [
      ...login,
      '1',
      'fixed',
      '10.20.40.61',
      '255.255.255.0',
      '10.20.40.1',
      '',
      '3',
      'modbus on',
      '',
      '9',
      'yes',
    ])
    expect(seen).toContain('now: 192.168.66.20 255.255.255.0 -')
    expect(seen).toContain('restarting')
    expect(card.running).toBe(false)
    pass(150)
    expect(card.address()).toBe('10.20.40.61')
    expect(card.services().map((service) => service.port)).toEqual([80, 502])
  })

  test('what is not saved is lost, and the password is not echoed', async () => {
    const { card, pass } = ready()
    const seen = await talk(card, [...login, '1', 'fixed', '10.20.40.61', '255.255.255.0', '', ''])
    expect(seen).toContain('not saved yet')
    expect(seen).not.toContain('secret')
    card.setPower(false)
    card.setPower(true)
    pass(150)
    expect(card.address()).toBe('192.168.66.20')
  })

  test('by lease it has what the server has for it, once it has restarted, and shows it', async () => {
    const { card, pass } = ready()
    await talk(card, [...login, '1', 'lease', '', '9', 'yes'])
    pass(150)
    expect(card.address()).toBe('10.20.40.61')
    const seen = await talk(card, [...login, '4', ''])
    expect(seen).toContain('address now 10.20.40.61 (lease)')
    expect(seen).toContain('gateway now 10.20.40.1')
  })

  test('test data are no longer zero with the code of the UPS', async () => {
    const { card } = ready()
    const seen = await talk(card, [...login, '2', '1111', '', '2', '4711'])
    expect(seen).toContain('battery 0 %')
    expect(seen).toContain('battery 97 %')
  })

  test('an address that cannot be is refused with its reason, and nothing is taken', async () => {
    const { card } = ready()
    const seen = await talk(card, [...login, '1', 'fixed', '10.20.40.256', '255.255.255.0', ''])
    expect(seen).toContain('Number 4 is 256, above 255.')
    expect(card.address()).toBe('192.168.66.20')
  })
})

test('settings of a page are judged before they are taken', () => {
  expect(refusedSettings({ address: '10.20.40.30', mask: '255.255.255.0', gateway: '10.20.40.1' })).toBeUndefined()
  expect(refusedSettings({ address: '10.20.40.30', mask: '255.255.255.0', gateway: '' })).toBeUndefined()
  expect(refusedSettings({ address: '10.20.40', mask: '255.255.255.0', gateway: '' })).toMatch(/3 of 4 numbers/)
  expect(refusedSettings({ address: '10.20.40.30', mask: '255.0.255.0', gateway: '' })).toBeDefined()
  expect(refusedSettings({ address: '10.20.40.30', mask: '255.255.255.0', gateway: '10.20.41.1' })).toBe(
    'The gateway lies outside the subnet.',
  )
})

describe('the switch of the bench', () => {
  test('serves an address while somebody holds it; of two, now the one and now the other; of none, nobody', async () => {
    const { front, fronts, pass } = bench()
    const bus = new BenchSwitch(fronts, { portFor: () => 0, hostFor: (address) => benchHost(address) })
    const answered = async (): Promise<string> => {
      const place = bus.placeOf('192.168.1.20', 502)
      if (!place) return 'nobody'
      const socket = new Socket()
      socket.connect(place.port, place.host)
      // FC 43/14, basic identification: the answer carries the model in plain text.
      socket.write(Uint8Array.from([0, 1, 0, 0, 0, 5, 1, 43, 14, 1, 0]))
      const [bytes] = await Promise.race([
        new Promise<[Buffer]>((done) => socket.once('data', (data) => done([data]))),
        pause(1_000).then((): [Buffer] => [Buffer.from('silence')]),
      ])
      socket.destroy()
      return /VD-\d+/.exec(bytes.toString('latin1'))?.[0] ?? bytes.toString('latin1')
    }
    try {
      await bus.look()
      expect(await answered()).toBe('nobody')
      for (const tag of ['PD-101', 'PD-102']) front(tag).setPower(true)
      pass(25)
      await bus.look()
      expect(new Set([await answered(), await answered()])).toEqual(new Set(['VD-110', 'VD-075']))
      front('PD-102').plugged = false
      await bus.look()
      expect([await answered(), await answered()]).toEqual(['VD-110', 'VD-110'])
      front('PD-101').setPower(false)
      await bus.look()
      expect(bus.placeOf('192.168.1.20', 502)).toBeUndefined()
    } finally {
      await bus.stop()
    }
  })
})

describe('a gateway with its line', () => {
  const read = { code: 4, address: protocolAddress(0), count: 2 } as const
  const gateway = () => bench().front('GW-201')

  test('units answer with values of their own, in their own word order; a number that nobody has is exception 11', () => {
    const front = gateway()
    const values = [1, 2].map((unit) => {
      const answer = front.answer(unit, read)
      if (!answer || !('words' in answer)) throw new Error(`unit ${unit}`)
      const [high = 0, low = 0] = unit === 1 ? [...answer.words].reverse() : answer.words
      const bytes = Buffer.alloc(4)
      bytes.writeUInt32BE(high * 0x10000 + low)
      return bytes.readFloatBE()
    })
    expect(values[0]).toBeCloseTo(42.4, 0)
    expect(values[1]).toBeCloseTo(18.1, 0)
    expect(front.answer(9, read)).toEqual({ exception: 11 })
    expect(front.answer(255, identity)).toMatchObject({ objects: expect.arrayContaining([{ id: 5, text: 'GW-201' }]) })
  })

  test('another parity is silent; set in the menu it still is, and answers after a restart', () => {
    const front = gateway()
    expect(front.answer(3, read)).toEqual({ exception: 11 })
    expect(front.turn('line FM-203', '9600 8N1')).toBe(true)
    expect(front.answer(3, read)).toEqual({ exception: 11 })
    expect(front.press('restart FM-203', 0)).toBe(true)
    expect(front.answer(3, read)).toHaveProperty('words')
    expect([
      front.turn('line FM-203', '1 8N1'),
      front.turn('line FM-9', '9600 8N1'),
      front.press('restart FM-9', 0),
    ]).toEqual([false, false, false])
  })

  test('two with one number: neither is heard, until the one has no supply', () => {
    const front = gateway()
    front.turn('supply FM-204', 'on')
    expect(front.answer(1, read)).toEqual({ exception: 11 })
    front.turn('supply FM-204', 'off')
    expect(front.answer(1, read)).toHaveProperty('words')
  })

  test('number and word order are set in the menu and count after a restart; two on one number are parted by it', () => {
    const front = gateway()
    front.turn('supply FM-204', 'on')
    expect([front.turn('number FM-204', '4'), front.turn('number FM-204', '300')]).toEqual([true, false])
    expect([front.answer(1, read), front.answer(4, read)]).toEqual([{ exception: 11 }, { exception: 11 }])
    front.press('restart FM-204', 0)
    expect(front.answer(4, read)).toHaveProperty('words')
    const words = (unit: number) => {
      const answer = front.answer(unit, read)
      return answer && 'words' in answer ? answer.words : []
    }
    const before = words(1)
    front.turn('order FM-201', 'ABCD')
    expect(words(1)).toEqual(before)
    front.press('restart FM-201', 0)
    expect(words(1)).toEqual([...before].reverse())
  })

  test('a unit at even parity on a line without is silent until it is set; without its far terminator frames are damaged', () => {
    const front = gateway()
    expect(front.answer(11, read)).toEqual({ exception: 11 })
    front.turn('line OT-211', '9600 8N1')
    front.press('restart OT-211', 0)
    expect(front.answer(11, read)).toHaveProperty('words')
    front.turn('terminator', 'off')
    const answers = Array.from({ length: 30 }, () => front.answer(2, read))
    expect(answers.filter((answer) => answer && 'words' in answer)).toHaveLength(10)
    front.turn('terminator', 'on')
    expect(Array.from({ length: 30 }, () => front.answer(2, read)).every((answer) => answer && 'words' in answer)).toBe(
      true,
    )
  })

  test('an answer takes what the line takes, one question after the other; silence takes the timeout', () => {
    const { front, pass } = bench()
    const gateway = front('GW-201')
    // 8 bytes asked, 9 answered, 10 bits each at 9 600 bit/s, two silences of 3.646 ms, 10 ms of the unit.
    const one = (17 * 10_000) / 9_600 + 2 * 3.6458 + 10
    expect(gateway.delayMs(2, read)).toBeCloseTo(one, 2)
    expect(gateway.delayMs(2, read)).toBeCloseTo(2 * one, 2)
    pass(1)
    expect(gateway.delayMs(3, read)).toBeCloseTo(300 + (8 * 10_000) / 9_600, 2)
    expect(gateway.delayMs(255, read)).toBe(0)
  })
})
