import { blankDevice, blankPoint, blankPort, type Job } from '@calm/core/job'
import { blankWalk } from '@calm/core/procedure'

const NEW_ID = '0d9c1f0e-6a3b-4c1d-8e2f-1a2b3c4d5e6f'

/** A right body for each route that takes one, so that what is broken in it comes as far as it can. */
export function goodBodies(job: Job): Readonly<Record<string, readonly unknown[]>> {
  const [network] = job.networks
  const [line] = job.lines
  const [device, other] = job.devices
  const [handshake] = job.handshakes
  const [port] = device?.ports ?? []
  const [forced] = job.forced
  const networkFields = { name: 'lan', cidr: '10.9.0.0/24', gateway: null, vlan: null, dhcp: '', reserved: '' }
  const portFields = {
    name: 'Ethernet',
    networkId: network?.id,
    address: '10.20.40.77',
    prefix: null,
    gateway: null,
    tcpPort: 502,
  }
  const versioned = (row: { readonly version: number } | undefined) => ({ version: row?.version ?? 1 })
  const set = (table: string, row: { readonly id: string; readonly version: number } | undefined, fields: unknown) => ({
    changes: [{ op: 'set', table, id: row?.id, ...versioned(row), fields }],
  })
  const add = (table: string, id: unknown, fields: unknown) => ({ changes: [{ op: 'add', table, id, fields }] })
  const whole = {
    ...blankDevice,
    tag: 'X-2',
    what: '',
    kind: 'meter',
    behindId: null,
    unitId: 2,
    asFound: '',
    note: '',
    position: 9,
  }
  return {
    '/jobs': [{ name: 'Fuzz', place: '', mode: 'bench' }],
    '/jobs/:jobId/changes': [
      set('device', device, { tag: other?.tag }),
      set('device', device, { behindId: network?.id }),
      set('port', port, { networkId: line?.id }),
      set('job', job, { addressRules: [{ kind: 'meter', first: 9, last: 3 }] }),
      add('device', device?.id, whole),
      add('device', NEW_ID, { ...whole, behindId: handshake?.id }),
      add('port', NEW_ID, { ...blankPort, ...portFields, deviceId: device?.id, networkId: device?.id }),
      add('node', NEW_ID, { deviceId: device?.id, lineId: network?.id, name: '', node: 3, isMaster: false }),
      add('network', network?.id, { ...networkFields, school: 'static' }),
      add('standing', NEW_ID, {
        subjectId: NEW_ID,
        termId: 'port',
        end: 'device',
        standing: 'found',
        text: '502',
        notation: null,
        how: 'typed',
        origin: '',
      }),
      add('acceptance', NEW_ID, { rule: 'x', subjectId: NEW_ID, found: '', reason: 'because' }),
      add('request', NEW_ID, {
        about: 'other',
        what: 'ask',
        toWhom: '',
        deviceIds: [NEW_ID],
        askedOn: null,
        dueOn: null,
        answer: '',
        answeredOn: null,
      }),
      { changes: [add('device', NEW_ID, whole).changes[0], add('device', NEW_ID, whole).changes[0]] },
      { changes: [{ op: 'remove', table: 'device', id: device?.id, version: 99 }] },
      { changes: [{ op: 'restore', table: 'network', id: network?.id }] },
      set('term', handshake?.terms[0], { text: '4' }),
      set('point', handshake?.points[0], { quantity: 'Q', asked: false }),
      set('handshake', handshake, { name: 'x' }),
      add('handshake', NEW_ID, { position: 9, name: 'x', controllerId: device?.id, deviceId: other?.id }),
      add('handshake', NEW_ID, { position: 9, name: 'x', controllerId: device?.id, deviceId: device?.id }),
      add('point', NEW_ID, { ...blankPoint('X'), handshakeId: handshake?.id }),
      add('term', NEW_ID, {
        termId: 'count',
        end: 'device',
        text: '4',
        notation: null,
        origin: '',
        handshakeId: handshake?.id,
      }),
      { changes: [{ op: 'remove', table: 'handshake', id: handshake?.id, ...versioned(handshake) }] },
    ],
    '/jobs/:jobId/forced': [{ where: 'PD-101', value: '20 %' }],
    '/forced/:id/release': [versioned(forced)],
    '/handshakes/:id/evidence': [{ rung: 'safe', verdict: 'proven', how: 'seen', value: 'seen' }],
    '/handshakes/:id/reading': [
      {
        pointId: handshake?.points[0]?.id,
        deviceReading: 1,
        controllerReading: null,
        controllerTyped: '1',
        shownTyped: null,
        typedAt: 1,
      },
    ],
    '/handshakes/:id/decisions': [{ rung: 'writing', state: 'parked', reason: 'part not here' }],
    '/jobs/:jobId/walk/steps': [{ stepKey: 'group-on Q1 1 / on', state: 'done', note: '', seen: 0 }],
    '/jobs/:jobId/walk/stretch': [{ stepKeys: ['group-on Q1 1 / on'], state: 'done', note: '' }],
    '/jobs/:jobId/walk/wait': [{ stepKey: 'group-on Q1 1 / starts' }],
    '/jobs/:jobId/walk/check': [{ stepKey: 'group-on Q1 1 / seen' }],
    '/jobs/:jobId/walk/reopen': [{ stepKey: 'group-on Q1 1 / on' }],
    '/jobs/:jobId/walk/order': [
      {
        version: 1,
        order: [
          { kind: 'verify', deviceId: device?.id },
          { kind: 'group-on', groupId: 'Q1' },
        ],
      },
      { version: 1, order: [{ kind: 'laptop', into: { address: 1, prefix: 0 }, leaves: null }] },
    ],
    '/jobs/:jobId/walk/settings': [{ version: 1, settings: { ...blankWalk.settings, runs: { [NEW_ID]: 'nothing' } } }],
    '/jobs/:jobId/facts': [
      { deviceId: device?.id, setting: 'address', standing: 'found', text: '10.20.40.1', how: 'seen' },
    ],
    '/jobs/:jobId/temporary': [{ what: 'key left', putBack: '' }],
    '/jobs/:jobId/labels': [
      {
        deviceId: device?.id,
        image: 'data:image/jpeg;base64,AAAA',
        codes: [{ format: 'QR', text: 'x', takenFor: '' }],
      },
    ],
    '/jobs/:jobId/pictures': [{ when: 'before', notes: ['x'] }],
    '/me': [{ name: 'A. Lund' }],
    '/bench/:tag': [
      { silent: false, slow: false, wrongUnit: false, exception2: false, wordsSwapped: false, mapShifted: false },
    ],
    '/bench-fronts/:tag': [
      { act: 'power', on: true },
      { act: 'press', id: 'x', seconds: 1 },
    ],
    '/session': [{ name: 'A', passcode: 'wrong wrong' }],
    '/passcodes/:role': [{ passcode: 'long enough' }],
  }
}
