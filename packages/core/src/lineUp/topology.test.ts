import { openLine, sampleDevice, sampleJob } from '../job/fixtures'
import { topologyOf } from './topology'

const line = {
  id: 'L',
  name: 'rack',
  medium: 'backplane',
  family: 'decimal-0-63',
  ...openLine,
  version: 1,
} as const
const node = (id: string, number: number, isMaster = false) => ({
  id,
  lineId: 'L',
  name: '',
  node: number,
  isMaster,
  version: 1,
})

test('networks carry devices, gateways their units, a rack its slots', () => {
  const job = sampleJob({
    lines: [line],
    devices: [
      sampleDevice('PLC', '10.20.40.10', { kind: 'rack-controller', nodes: [node('a', 0, true)] }),
      sampleDevice('AI', null, { ports: [], behindId: 'PLC', nodes: [node('b', 3)] }),
      sampleDevice('GW', '10.20.40.40', { kind: 'gateway' }),
      sampleDevice('FM', null, { ports: [], behindId: 'GW', unitId: 7 }),
    ],
  })
  const { boxes, links } = topologyOf(job)
  expect(boxes.map((box) => box.id)).toEqual(['process', 'L', 'PLC', 'AI', 'GW', 'FM'])
  // The rack says already that AI is with PLC.
  expect(links.map((link) => `${link.from} ${link.to} ${link.by}`)).toEqual([
    'process PLC .10',
    'PLC L 0',
    'L AI slot 3',
    'process GW .40',
    'GW FM unit 7',
  ])
})

test('many alike in one place are one box until it is opened; no device is lost', () => {
  const job = sampleJob({
    devices: Array.from({ length: 12 }, (_, k) => sampleDevice(`EM-${k}`, `10.20.40.${50 + k}`)),
  })
  const { boxes, links } = topologyOf(job)
  const many = boxes.find((box) => box.what === 'many')
  expect(many).toMatchObject({ name: '12 × Energy meter' })
  expect(links).toEqual([{ from: 'process', to: many?.id, by: '' }])
  const opened = topologyOf(job, new Set([many?.id ?? '']))
  expect(opened.boxes.filter((box) => box.what === 'device')).toHaveLength(12)
  expect(opened.links).toHaveLength(12)
})
