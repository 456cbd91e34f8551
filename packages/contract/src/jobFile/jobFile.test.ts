import { blankDevice } from '@calm/core/job'
import { blankWalk } from '@calm/core/procedure'
import type { Job } from '@calm/core/job'
import { JOB_FILE_LIMIT, jobFileOf, readJobFile } from '.'

const id = (n: number) => `6f1c2b1e-8f5e-4b8e-9f5b-${String(n).padStart(12, '0')}`
const job: Job = {
  id: id(1),
  version: 1,
  name: 'Sample',
  place: '',
  mode: 'plant',
  addressRules: [],
  lines: [],
  kinds: [],
  requests: [],
  acceptances: [],
  standings: [],
  networks: [
    {
      id: id(2),
      version: 1,
      name: 'lan',
      cidr: '10.0.0.0/24',
      gateway: null,
      vlan: null,
      dhcp: '',
      reserved: '',
      school: 'static',
    },
  ],
  devices: [1, 2].map((n) => ({
    ...blankDevice,
    nodes: [],
    id: id(10 + n),
    version: 1,
    position: n,
    tag: `D-${n}`,
    kind: 'meter',
    unitId: n,
    ports: [
      {
        id: id(20 + n),
        version: 1,
        name: 'Ethernet',
        networkId: id(2),
        address: `10.0.0.${n}`,
        prefix: null,
        gateway: null,
        tcpPort: 502,
        mac: null,
        school: null,
      },
    ],
  })),
  handshakes: [],
  forced: [],
  evidence: [],
}
const text = (change: (file: { version: number; job: Record<string, unknown> & Job }) => void = () => undefined) => {
  const file = JSON.parse(JSON.stringify(jobFileOf(job, '2026-01-01T00:00:00.000Z')))
  change(file)
  // Files up to version 3 have no evidence of the job as a whole.
  if (file.version < 4) delete (file.job as Partial<Record<string, unknown>>).evidence
  return JSON.stringify(file)
}
const problemsOf = (content: string) => {
  const reading = readJobFile(content)
  return reading.ok ? [] : reading.problems.map((problem) => problem.where)
}

const LINE_FIELDS = ['id', 'version', 'name', 'medium', 'family', 'settings'].map((name) => `job.lines[0].${name}`)

/** Fields of a device that files of version 1 have. */
const KNOWN_IN_1 = ['what', 'behindId', 'unitId', 'asFound', 'note']

describe('a job file', () => {
  test('is read as it was written', () => expect(readJobFile(text())).toMatchObject({ ok: true, job }))

  test('of version 2, without first contact, is read too, and gets a blank one', () => {
    const reading = readJobFile(
      text((file) => {
        file.version = 2
        delete (file as { firstContact?: unknown }).firstContact
      }),
    )
    expect(reading.ok && reading.firstContact).toEqual(blankWalk)
  })

  test('a fact of a device that is not there is told with its place', () => {
    const fact = {
      id: id(90),
      deviceId: id(91),
      setting: 'address',
      standing: 'found',
      text: '10.0.0.1',
      how: 'seen',
      who: 'R. Osei',
      at: 1,
    }
    const reading = readJobFile(text((file) => Object.assign(file, { firstContact: { ...blankWalk, facts: [fact] } })))
    expect(!reading.ok && reading.problems[0]).toMatchObject({ where: 'firstContact.facts[0].deviceId', found: id(91) })
  })

  test('a run begun for a device that is not there is told with its place', () => {
    const settings = { ...blankWalk.settings, onDemand: [{ id: id(92), deviceId: id(91), runId: 'restart' }] }
    const reading = readJobFile(text((file) => Object.assign(file, { firstContact: { ...blankWalk, settings } })))
    expect(!reading.ok && reading.problems[0]).toMatchObject({
      where: 'firstContact.settings.onDemand[0].deviceId',
      found: id(91),
    })
  })

  test('of version 3, with evidence in its handshakes, is read: each sentence stays as it was, about what it was about', () => {
    const seen = {
      verdict: 'proven',
      who: 'R. Osei',
      at: 5,
      how: 'seen',
      basis: {},
      mode: 'bench',
      detail: ['in detail'],
    }
    const handshake = {
      id: id(60),
      version: 1,
      position: 1,
      name: 'D-1 to D-2',
      controllerId: id(11),
      deviceId: id(12),
      terms: [],
      points: ['B_Tag', 'A_Tag'].map((tag, k) => ({
        id: id(70 + k),
        version: 1,
        tag,
        quantity: 'Value',
        unit: 'V',
        decimals: 1,
        served: null,
        shownAt: '',
        reference: null,
        tolerance: { kind: 'absolute', amount: 1 },
      })),
      evidence: [
        { ...seen, id: id(80), rung: 'powered', value: 'Lamps as drawn' },
        { ...seen, id: id(81), rung: 'reading', value: 'Value: D-2 230 V' },
      ],
      decisions: [],
    }
    const old = text((file) => {
      file.version = 3
      Object.assign(file.job, { handshakes: [handshake] })
    })
    const reading = readJobFile(old)
    if (!reading.ok) throw new Error(JSON.stringify(reading.problems))
    expect(reading.job.handshakes[0]).not.toHaveProperty('evidence')
    expect(reading.job.handshakes[0]?.points).toMatchObject([
      { tag: 'B_Tag', position: 0, asked: true, source: null },
      { tag: 'A_Tag', position: 1 },
    ])
    expect(reading.job.evidence).toMatchObject([
      {
        subject: { kind: 'handshake', id: id(60) },
        facts: [{ kind: 'text', text: 'Lamps as drawn' }, { text: 'in detail' }],
      },
      {
        subject: { kind: 'point', id: id(70) },
        facts: [{ kind: 'text', text: 'Value: D-2 230 V' }, { text: 'in detail' }],
      },
    ])
    // What an older file has, a newer one has not.
    const mixed = text((file) => Object.assign(file.job, { handshakes: [handshake] }))
    expect(problemsOf(mixed)).toContain('job.handshakes[0].evidence')
  })

  test('evidence about something that is not there, or with a fact of no known kind, is told with its place', () => {
    const evidence = {
      id: id(80),
      subject: { kind: 'device', id: id(99) },
      rung: 'safe',
      verdict: 'proven',
      who: 'R. Osei',
      at: 5,
      how: 'seen',
      basis: {},
      mode: 'bench',
      facts: [{ kind: 'text', text: 'seen' }],
    }
    const withEvidence = (more: object) =>
      problemsOf(text((file) => Object.assign(file.job, { evidence: [{ ...evidence, ...more }] })))
    expect(withEvidence({})).toEqual(['job.evidence[0].subject.id'])
    expect(withEvidence({ subject: { kind: 'port', id: id(11) } })).toEqual(['job.evidence[0].subject.id'])
    expect(withEvidence({ subject: { kind: 'device', id: id(11) } })).toEqual([])
    expect(withEvidence({ facts: [{ kind: 'smell', text: 'burnt' }] })).toEqual(['job.evidence[0].facts[0].kind'])
    expect(withEvidence({ facts: [{ kind: 'text', text: 'seen', more: 1 }] })).toEqual([
      'job.evidence[0].facts[0].more',
    ])
  })

  test('of version 1, without hardware addresses, lines, kinds and requests, is read too', () => {
    const old = text((file) => {
      file.version = 1
      const drop = (row: object, ...names: readonly string[]) => {
        for (const name of names) delete (row as Record<string, unknown>)[name]
      }
      drop(file.job, 'addressRules', 'lines', 'kinds', 'requests', 'acceptances')
      for (const network of file.job.networks) drop(network, 'school')
      for (const device of file.job.devices) {
        drop(device, 'nodes', ...Object.keys(blankDevice).filter((name) => !KNOWN_IN_1.includes(name)))
        for (const port of device.ports) drop(port, 'mac', 'school')
      }
    })
    expect(readJobFile(old)).toMatchObject({ ok: true, job })
  })

  test.each<[string, (file: { version: number; job: Record<string, unknown> & Job }) => void, string[]]>([
    ['an older version that never was', (file) => Object.assign(file, { version: 0 }), ['version']],
    [
      'a line of a medium that is none',
      (file) => Object.assign(file.job, { lines: [{ medium: 'string' }] }),
      LINE_FIELDS,
    ],
    ['a mode that is none', (file) => Object.assign(file.job, { mode: 'both' }), ['job.mode']],
    ['a list that is missing', (file) => delete (file.job as Record<string, unknown>).forced, ['job.forced']],
    [
      'a number as text',
      (file) => Object.assign(file.job.devices[0] ?? {}, { unitId: '1' }),
      ['job.devices[0].unitId'],
    ],
    ['two rows with one id', (file) => Object.assign(file.job.devices[1] ?? {}, { id: id(11) }), ['job.devices[1].id']],
    [
      'a device behind nobody',
      (file) => Object.assign(file.job.devices[1] ?? {}, { behindId: id(99) }),
      ['job.devices[1].behindId'],
    ],
    [
      'an address that is none',
      (file) => Object.assign(file.job.devices[1]?.ports[0] ?? {}, { address: '10.0.0' }),
      ['job.devices[1].ports[0].address'],
    ],
  ])('with %s is refused at its path', (_what, change, where) => expect(problemsOf(text(change))).toEqual(where))

  test.each([
    ['null', 'null'],
    ['a list', '[]'],
    ['a number', '7'],
    ['a half of itself', text().slice(0, 200)],
  ])('that is %s is refused, not a crash', (_what, content) => expect(problemsOf(content)).toHaveLength(1))

  test('that is too large is refused before it is parsed', () => {
    const reading = readJobFile('x'.repeat(JOB_FILE_LIMIT + 1))
    expect(!reading.ok && reading.problems[0]?.what).toBe('The file is too large: 20.0 MB.')
  })

  test('with very many wrong fields lists at most two hundred of them', () => {
    const many = text((file) =>
      Object.assign(file.job, { devices: Array.from({ length: 900 }, () => ({ colour: 1 })) }),
    )
    expect(problemsOf(many)).toHaveLength(200)
  })
})
