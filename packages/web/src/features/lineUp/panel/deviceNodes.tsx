import { describeNode, formatNode, freeNodes, nodeFamily, parseNode, type BusNode } from '@calm/core/bus'
import { busesOf, type Device, type DeviceNode, type Job, type Line } from '@calm/core/job'
import { comesAsMaster } from '@calm/core/lineUp'
import { Plus, Trash2 } from 'lucide-react'
import { Button, Checkbox, Choice, Editable } from '../../../ui'
import { readLine, readNodeOn } from './readers'
import type { LineUp } from '../useLineUp'

interface NodesProps {
  readonly job: Job
  readonly device: Device
  readonly lineUp: LineUp
}

/** Where a device sits on lines and buses; one with several axes has several nodes. */
export function DeviceNodes({ job, device, lineUp }: NodesProps) {
  if (job.lines.length === 0) return null
  const add = (line: Line) => {
    const bus = busesOf(job).find((each) => each.id === line.id)
    const [free] = bus ? freeNodes(bus) : []
    return lineUp.addRow(`${device.tag} put on ${line.name}.`, 'node', {
      lineId: line.id,
      name: device.nodes.length === 0 ? '' : `axis ${device.nodes.length + 1}`,
      node: free ?? null,
      isMaster: comesAsMaster(job, device.kind),
      deviceId: device.id,
    })
  }
  const usual = job.lines.find((line) => line.id === device.nodes[0]?.lineId) ?? job.lines[0]
  return (
    <section aria-label={`Nodes of ${device.tag}`} className="grid justify-items-start gap-1.5 text-row">
      {device.nodes.map((node) => (
        <NodeRow key={node.id} job={job} device={device} node={node} lineUp={lineUp} />
      ))}
      {usual && (
        <Button look="plain" onClick={() => lineUp.attempt(add(usual))}>
          <Plus size={15} aria-hidden /> {device.nodes.length === 0 ? 'Put on a line' : 'Another node'}
        </Button>
      )}
    </section>
  )
}

function NodeRow({ job, device, node, lineUp }: NodesProps & { readonly node: DeviceNode }) {
  const line = job.lines.find((each) => each.id === node.lineId)
  const family = nodeFamily(line?.family ?? 'decimal-1-247')
  const called = `${node.name === '' ? 'node' : node.name} of ${device.tag}`
  const set = (fields: Partial<DeviceNode>) => lineUp.set(`${device.tag} changed.`, 'node', node, { ...fields })
  const text = node.node === null ? '' : formatNode(node.node as BusNode, family)
  return (
    <div className="flex min-w-0 flex-wrap items-center gap-1.5">
      <Choice
        hideLabel
        label={`Line of ${called}`}
        value={node.lineId}
        choices={job.lines.map(({ id, name }) => ({ value: id, label: name }))}
        onChange={(lineId) => lineUp.attempt(set({ lineId }))}
      />
      <Editable
        typed
        label={`Number of ${called}`}
        text={text}
        spoken={text || 'not planned'}
        shown={
          node.node === null ? undefined : (
            <span className="font-typed font-medium">{describeNode(node.node as BusNode, family)}</span>
          )
        }
        read={readNodeOn(family.id)}
        onSave={(typed) => {
          const reading = parseNode(typed, family)
          return set({ node: reading.ok ? reading.value : null })
        }}
      />
      <Editable label={`Name of ${called}`} text={node.name} read={readLine} onSave={(name) => set({ name })} />
      <Checkbox
        className="text-note"
        label="master"
        checked={node.isMaster}
        onChange={(isMaster) => lineUp.attempt(set({ isMaster }))}
      />
      <Button
        look="icon"
        aria-label={`Remove ${called}`}
        onClick={() => lineUp.attempt(lineUp.removeRow(`${called} removed.`, 'node', node))}
      >
        <Trash2 size={15} />
      </Button>
    </div>
  )
}
