import { sampleDevice } from '../job/fixtures'
import { blankWalk, knownFor, recordIds, type WalkRecord } from '.'

const device = sampleDevice('PD-101', '10.20.40.21', {
  orderCode: 'VD-110-4-E',
  orderCodeFound: '',
  serialNumber: 'S4 7C11',
  firmwareNeeded: '2.4',
  firmwareFound: '2.2',
})
const said = (setting: string, text: string): WalkRecord => ({
  ...blankWalk,
  facts: [{ id: 'f', deviceId: device.id, setting, standing: 'found', text, how: 'read-live', who: 'x', at: 1 }],
})

test('what was read anywhere is there where it is asked for; what is planned never is', () => {
  expect(knownFor(blankWalk, device, 'serial-number')).toBe('S4 7C11')
  expect(knownFor(blankWalk, device, 'order-code')).toBe('')
  expect(knownFor(blankWalk, { ...device, orderCodeFound: 'VD-110-4-F' }, 'order-code')).toBe('VD-110-4-F')
  expect(knownFor(blankWalk, device, 'firmware')).toBe('2.2')
  expect(knownFor(said('firmware', '2.3'), device, 'firmware')).toBe('2.3')
  expect(knownFor(said('heard', '02:5E:0B:10:7C:11'), device, 'mac')).toBe('02:5E:0B:10:7C:11')
  expect(knownFor(said('unit-code', '4711'), device, 'unit-code')).toBe('4711')
  expect(knownFor(said('text-on-tag', 'BAG 17'), device, 'text-on-tag')).toBe('BAG 17')
  const named = { ...device, namePlaces: [{ where: 'server', text: 'pd-101' }] }
  expect(knownFor(said('name in server', 'pd-l01'), named, 'names')).toBe('the device itself = ; server = pd-l01')
})

test('a backup, a note and an identity are each written anew', () => {
  const anew = ['backup', 'note', 'identity', 'as-found', 'node', 'unit-id', 'measured'] as const
  for (const what of anew)
    expect({ what, known: knownFor(said(what, 'before'), device, what) }).toEqual({ what, known: '' })
  expect(Object.keys(recordIds).length).toBe(anew.length + 7)
})
