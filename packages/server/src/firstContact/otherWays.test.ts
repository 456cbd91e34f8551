/** Devices set by switches, by a button, by an app, and units on a line: walked on their stand-ins, with wrong turns. */
import type { CheckAnswer } from '@calm/contract/api'
import type { BenchLaptopView } from '@calm/contract/live'
import type { Job } from '@calm/core/job'
import { quietOptions } from '../fixtures'
import { start, type Running } from '../start'
import { apiOf, begin, Hands, walkOn, type InHand, type Walked } from './fixtures/walking'

jest.setTimeout(120_000)

let running: Running
const api = apiOf(() => running.url)
const at = new Hands(api)
let jobId = ''
/** What the walk said to what was done wrong, by step. */
const told = new Map<string, string>()
const seen: string[] = []
let walked: Walked

const turnTo = async (number: string) => {
  for (const [index, id] of ['hundreds', 'tens', 'ones'].entries())
    await at.act('AIO-121', { act: 'turn', id, value: number[index] })
}
const checkNow = (stepKey: string) => api<CheckAnswer>('POST', `/jobs/${jobId}/walk/check`, { stepKey })
const pause = (milliseconds: number) => new Promise((done) => setTimeout(done, milliseconds))
const frontOf = async (tag: string) => (await at.fronts()).fronts.find((front) => front.tag === tag)
const lampsOf = async (tag: string) => (await frontOf(tag))?.lamps.map(({ lamp, words }) => `${lamp} ${words}`) ?? []
const key = (id: string) => at.act('CV-131', { act: 'press', id, seconds: 0 })
/** Its power off and on, and its start. */
const cycle = async (tag: string) => {
  await at.act(tag, { act: 'power', on: false })
  await at.act(tag, { act: 'power', on: true })
  await pause(1_000)
}

/** What each step of each device needs from hands, the wrong way first. */
const doings: Readonly<Record<string, (inHand: InHand) => Promise<void>>> = {
  'AIO-121 switches': () => turnTo('012'),
  'AIO-121 find-again': async ({ step }) => {
    // Turned while it runs: nothing changes before the next power-up.
    await turnTo('021')
    told.set('turned while it runs', (await checkNow(step.key)).say)
    await cycle('AIO-121')
  },
  'GW-241 laptop': async () => {
    told.set('on line', await at.page('GW-241', ['10.20.42.41', '255.255.255.0', '10.20.42.1']))
  },
  'GW-241 press': () => at.act('GW-241', { act: 'press', id: 'config', seconds: 0 }),
  'GW-241 config-lamp': async () => void seen.push(...(await lampsOf('GW-241'))),
  'GW-241 settings': async ({ step: { step } }) => {
    const [address = '', , gateway = ''] = step.type ?? []
    told.set('a mask that is none', await at.page('GW-241', [address, '255.0.255.0', gateway]))
    told.set('in its mode', await at.page('GW-241', step.type ?? []))
  },
  'GW-241 reset': () => at.act('GW-241', { act: 'press', id: 'reset', seconds: 0 }),
  'CV-131 octet': async ({ step: { step } }) => {
    // In remote it shows, and takes nothing.
    await at.act('CV-131', { act: 'turn', id: 'mode', value: 'remote' })
    for (let press = 0; press < 4; press += 1) await key('menu')
    await key('up')
    told.set('in remote', (await frontOf('CV-131'))?.display ?? '')
    await at.act('CV-131', { act: 'turn', id: 'mode', value: 'local' })
    for (let tens = 0; tens < 7; tens += 1) await key('ten-down')
    for (let ones = 0; ones < 2; ones += 1) await key('up')
    told.set('in local', (await frontOf('CV-131'))?.display ?? '')
    told.set('address meanwhile', (await frontOf('CV-131'))?.address ?? '')
    expect(step.type).toEqual(['31'])
  },
  'EM-133 octets': async ({ step: { step } }) => {
    await at.turnOctets('EM-133', (step.type?.[0] ?? '').split('.').map(Number))
    // Turned, not saved: it still has what it had.
    told.set('not saved', (await frontOf('EM-133'))?.address ?? '')
    await at.act('EM-133', { act: 'press', id: 'save', seconds: 0 })
  },
  'RIO-132 assign': async ({ step: { step } }) => {
    told.set('the tool', await at.page('RIO-132', step.type ?? []))
  },
  'INV-321 network': async ({ step: { step } }) => {
    told.set('the app', await at.page('INV-321', step.type ?? []))
    await pause(2_500)
  },
}

beforeAll(async () => {
  running = await start({ ...quietOptions, demo: 'small' })
  const { laptop } = await api<{ laptop: BenchLaptopView }>('GET', '/bench-fronts')
  await api('PUT', '/bench-laptop', { ...laptop, speed: 100 })
  const jobs = await api<readonly { id: string; name: string }[]>('GET', '/jobs')
  jobId = jobs.find(({ name }) => name.startsWith('Second panel'))?.id ?? ''
  await begin(api, jobId)
  walked = await walkOn(api, jobId, async (inHand) => {
    if (inHand.step.step.kind !== 'check') await at.usual(inHand)
    const key = `${inHand.tag} ${inHand.step.step.id}`
    seen.push(key)
    await doings[key]?.(inHand)
  })
})
afterAll(() => running.stop())

test('each is at its planned address in the end, and no step was settled by a reason', async () => {
  expect(walked.overridden).toEqual([])
  const job = await api<Job>('GET', `/jobs/${jobId}`)
  const verified = job.devices.flatMap(({ id, tag }) =>
    walked.record.facts
      .filter(({ deviceId, setting, standing }) => deviceId === id && setting === 'address' && standing === 'verified')
      .map(({ text }) => `${tag} ${text}`),
  )
  expect([...new Set(verified)]).toEqual([
    'AIO-121 10.20.42.21',
    'GW-241 10.20.42.41',
    'CV-131 10.20.42.31',
    'RIO-132 10.20.42.32',
    'EM-133 10.20.42.33',
    'INV-321 10.20.42.60',
  ])
  // Every doing was asked for by a step: none of them is a test of nothing.
  expect(Object.keys(doings).filter((key) => !seen.includes(key))).toEqual([])
})

test('switches that are turned while it runs: the walk says that nothing answers, until power was off and on', () => {
  expect(told.get('turned while it runs')).toContain('Nothing answers at 10.20.42.21')
})

test('an octet at a keypad: in remote nothing is taken; entered, it does not count before power was off and on', () => {
  expect(told.get('in remote')).toBe('address 4: 099')
  expect(told.get('in local')).toBe('address 4: 031')
  expect(told.get('address meanwhile')).toBe('10.20.42.99')
})

test('a menu at the device: what is turned and not saved is not in force', () => {
  expect(told.get('not saved')).toBe('192.168.66.70')
})

test('a gateway on line takes no settings; in its mode it passes nothing on, and a mask that is none is refused', () => {
  expect(told.get('on line')).toContain('It is on line.')
  expect(told.get('a mask that is none')).toContain('255.0.255.0')
  expect(told.get('in its mode')).toContain('in force after its reset')
  expect(seen).toContain('Config comes in turn, green and amber')
})

test('units on the line are asked one by one, through their gateway', () => {
  const notes = walked.stops.flatMap(({ steps }) => steps).map(({ record }) => record?.note ?? '')
  const units = notes.filter((note) => note.includes('Second leg'))
  expect(units).toEqual([
    expect.stringMatching(/unit 11: it answers.*FM-241/),
    expect.stringMatching(/unit 12: it answers.*EM-242/),
  ])
})
