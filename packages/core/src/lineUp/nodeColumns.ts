import { formatNode, nodeFamily, parseNode } from '../bus'
import type { Job } from '../job'
import { parseUnitId } from '../modbus'
import { ok, refusal } from '../units'
import { orBlank } from './cells'
import { mapped, type DeviceColumn } from './column'

export const unitId: DeviceColumn = {
  id: 'unitId',
  name: 'Unit id',
  heads: ['unit', 'unitid', 'modbusid', 'slave', 'slaveid', 'node'],
  typed: true,
  text: (device) => (device.unitId === null ? '' : String(device.unitId)),
  read: (text) =>
    mapped(
      orBlank(text, (typed) => parseUnitId(/^\d+[.,]0+$/.test(typed) ? typed.replace(/[.,]0+$/, '') : typed, 'tcp')),
      (value) => ({ device: { unitId: value } }),
    ),
}

/** Nodes as `line node`, with semicolons between several; the node as it is written on that line. */
export const nodes: DeviceColumn = {
  id: 'nodes',
  name: 'Nodes',
  heads: ['nodes', 'busnode', 'busnodes', 'station', 'stations', 'busaddress'],
  typed: true,
  text: (device, job) =>
    device.nodes
      .map((each) => {
        const line = job.lines.find((one) => one.id === each.lineId)
        return line
          ? `${line.name} ${each.node === null ? '?' : formatNode(each.node as never, nodeFamily(line.family))}`
          : ''
      })
      .filter((text) => text !== '')
      .join('; '),
  read: (text, job, device) => {
    const found: { lineId: string; node: number | null }[] = []
    const [only] = device?.nodes ?? []
    for (const part of text.split(';').map((each) => each.trim())) {
      if (part === '') continue
      const named = job.lines
        .filter((line) => part.toLowerCase().startsWith(`${line.name.toLowerCase()} `))
        .sort((a, b) => b.name.length - a.name.length)[0]
      const line =
        named ??
        job.lines.find((each) => each.id === only?.lineId) ??
        (job.lines.length === 1 ? job.lines[0] : undefined)
      if (!line) return refusal('row.line', `"${part}" does not begin with a line of this job.`, part, lineNames(job))
      const written = named ? part.slice(named.name.length).trim() : part
      if (written === '?') {
        found.push({ lineId: line.id, node: null })
        continue
      }
      const node = parseNode(written, nodeFamily(line.family))
      if (!node.ok) return node
      found.push({ lineId: line.id, node: node.value })
    }
    return ok({ nodes: found })
  },
}

const lineNames = (job: Job) =>
  job.lines.length === 0 ? 'a line; add one first' : job.lines.map((line) => `${line.name} …`).join(', ')
