import { formatIpv4 } from '@calm/core/address'
import { sampleDevice, sampleJob, sampleNetwork, samplePort } from '@calm/core/job/fixtures'
import { columnSets, cellName, fromKind } from '../table'
import { historyNow, inTurn, remember, stepBack, stepForth } from '../../../edit/history'
import { tapeOf } from './tapeModel'

describe('the ruler of a network', () => {
  const jobIn = (cidr: string, addresses: readonly string[]) =>
    sampleJob({
      networks: [sampleNetwork({ cidr, gateway: null, dhcp: '', reserved: '' })],
      devices: addresses.map((address, k) =>
        sampleDevice(`D-${k}`, null, { ports: [samplePort(address, { id: `p${k}` })] }),
      ),
    })
  const edges = (cidr: string, window = 0) => {
    const tape = tapeOf(jobIn(cidr, []), 'process', window)
    return (
      tape && [
        formatIpv4(tape.window.first),
        formatIpv4(tape.window.last),
        tape.ticks.length,
        tape.windowCount,
        tape.freeCount,
      ]
    )
  }

  test.each([
    ['10.20.40.0/24', ['10.20.40.0', '10.20.40.255', 256, 1, 254]],
    ['10.20.40.16/28', ['10.20.40.16', '10.20.40.31', 16, 1, 14]],
    ['10.20.40.4/30', ['10.20.40.4', '10.20.40.7', 4, 1, 2]],
    ['10.20.40.0/23', ['10.20.40.0', '10.20.40.255', 256, 2, 510]],
    ['10.20.0.0/16', ['10.20.0.0', '10.20.0.255', 256, 256, 65_534]],
  ])('%s is exact', (cidr, expected) => expect(edges(cidr)).toEqual(expected))

  test('a large one is shown piece by piece, the last piece ending with it', () => {
    expect(edges('10.20.0.0/16', 255)?.slice(0, 2)).toEqual(['10.20.255.0', '10.20.255.255'])
    expect(edges('10.20.0.0/16', 999)?.slice(0, 2)).toEqual(['10.20.255.0', '10.20.255.255'])
  })

  test('its pieces say how much is planned in each, and where one address is wanted twice', () => {
    const tape = tapeOf(jobIn('10.20.0.0/16', ['10.20.0.5', '10.20.3.7', '10.20.3.7', '10.21.0.1']), 'process', 0)
    const filled = tape?.windows.flatMap((window, k) => (window.count > 0 ? [[k, window.count, window.atOdds]] : []))
    expect(filled).toEqual([
      [0, 1, false],
      [3, 2, true],
    ])
  })

  test('a network that is not there has none', () => expect(tapeOf(sampleJob(), 'nothing', 0)).toBeUndefined())
})

describe('columns of the table', () => {
  test('each set fits a table: six columns at most, none twice', () => {
    for (const set of columnSets) {
      const ids = set.columns.map((column) => column.id)
      expect(new Set(ids).size).toBe(ids.length)
      expect(ids.length).toBeLessThanOrEqual(6)
    }
  })
  test('a cell is called so that a screen reader tells it from the others', () => {
    expect(cellName('what', 'What it is', 'EM-501')).toBe('What EM-501 is')
    expect(cellName('address', 'Planned address', 'EM-501')).toBe('Planned address of EM-501')
  })
  test('where the device says nothing, its kind does', () => {
    const job = sampleJob()
    const device = sampleDevice('U', null, { kind: 'ups-card' })
    expect(fromKind('setting', device, job)).toBe('Serial menu')
    expect(fromKind('startUp', device, job)).toBe('150')
    expect(fromKind('startUp', { ...device, startUpSeconds: 10 }, job)).toBeUndefined()
    expect(fromKind('note', device, job)).toBeUndefined()
  })
})

describe('steps back and forth', () => {
  const entry = (say: string) => ({ say, back: [] })
  const says = (jobId: string) =>
    [historyNow(jobId).done, historyNow(jobId).undone].map((list) => list.map((each) => each.say))

  test('what is new takes away what could be redone', () => {
    remember('a', entry('one'))
    remember('a', entry('two'))
    stepBack('a', entry('two'))
    expect(says('a')).toEqual([['one'], ['two']])
    stepForth('a', entry('two'))
    expect(says('a')).toEqual([['one', 'two'], []])
    stepBack('a', entry('two'))
    remember('a', entry('three'))
    expect(says('a')).toEqual([['one', 'three'], []])
    expect(says('other job')).toEqual([[], []])
  })

  test('two hundred steps are kept, the oldest go', () => {
    for (let k = 0; k < 250; k += 1) remember('b', entry(String(k)))
    expect(historyNow('b').done).toHaveLength(200)
    expect(historyNow('b').done[0]?.say).toBe('50')
  })

  test('a step back waits for what is being sent, also when that breaks', async () => {
    const order: string[] = []
    const slow = inTurn('c', async () => {
      await new Promise((done) => setTimeout(done, 20))
      order.push('sent')
    })
    const broken = inTurn('c', async () => {
      order.push('refused')
      throw new Error('409')
    })
    const back = inTurn('c', async () => void order.push('back'))
    await Promise.allSettled([slow, broken, back])
    expect(order).toEqual(['sent', 'refused', 'back'])
  })
})
