import { sampleDevice, sampleJob } from './fixtures'
import type { AskedOfOthers } from './model'
import { requestState, shareAnswer, waitsFor } from './requests'

const request = (more: Partial<AskedOfOthers> = {}): AskedOfOthers => ({
  id: 'r',
  about: 'reservation',
  what: 'Addresses',
  toWhom: 'network owner',
  deviceIds: ['PD-1', 'PD-10'],
  askedOn: '2026-11-01',
  dueOn: '2026-11-10',
  answer: '',
  answeredOn: null,
  version: 1,
  ...more,
})

test.each([
  [{}, '2026-11-10', 'asked'],
  [{}, '2026-11-11', 'late'],
  [{ dueOn: null }, '2030-01-01', 'asked'],
  [{ askedOn: null }, '2026-11-11', 'not-asked'],
  [{ answeredOn: '2026-11-12' }, '2026-12-01', 'answered'],
] as const)('%j on %s is %s', (more, today, state) => expect(requestState(request(more), today)).toBe(state))

test('a device waits until the answer is there', () => {
  const job = sampleJob({ devices: [sampleDevice('PD-1', null)], requests: [request()] })
  expect(waitsFor(job, 'PD-1')).toHaveLength(1)
  expect(waitsFor({ ...job, requests: [request({ answeredOn: '2026-11-05' })] }, 'PD-1')).toEqual([])
})

test('a pasted answer is shared out by tags, the longer one first, and nothing of it is lost', () => {
  const job = sampleJob({ devices: [sampleDevice('PD-1', null), sampleDevice('PD-10', null)] })
  const answer = 'Hello,\r\nPD-10: 10.20.40.30\nPD-1\t10.20.40.21\npd-1 = gateway .1\nPD-100: not yours\n\nRegards'
  expect(shareAnswer(job, request(), answer)).toEqual({
    perDevice: [
      { deviceId: 'PD-10', tag: 'PD-10', text: '10.20.40.30' },
      { deviceId: 'PD-1', tag: 'PD-1', text: '10.20.40.21' },
      { deviceId: 'PD-1', tag: 'PD-1', text: 'gateway .1' },
    ],
    rest: ['Hello,', 'PD-100: not yours', 'Regards'],
  })
})
