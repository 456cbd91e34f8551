import { formatIpv4, parseIpv4 } from '@calm/core/address'
import { blankPort, type Device, type Job, type Port } from '@calm/core/job'
import { Plus, Trash2 } from 'lucide-react'
import { Choice, Editable, Button } from '../../../ui'
import { readAddress, readLine } from './readers'
import type { LineUp } from '../useLineUp'

interface PortsProps {
  readonly job: Job
  readonly device: Device
  readonly lineUp: LineUp
}

/** Further ports of a device: a card with two sockets, a drive with two axes. The first one stands above. */
export function DevicePorts({ job, device, lineUp }: PortsProps) {
  const addPort = () =>
    lineUp.addRow(`A port of ${device.tag} added.`, 'port', {
      ...blankPort,
      name: device.ports.length === 0 ? 'Ethernet' : `Ethernet ${device.ports.length + 1}`,
      networkId: device.ports[0]?.networkId ?? job.networks[0]?.id ?? null,
      gateway: device.ports[0]?.gateway ?? job.networks[0]?.gateway ?? null,
      deviceId: device.id,
    })
  return (
    <section aria-label={`Ports of ${device.tag}`} className="grid justify-items-start gap-1.5 text-row">
      {device.ports.slice(1).map((port) => (
        <PortRow key={port.id} job={job} device={device} port={port} lineUp={lineUp} />
      ))}
      <Button look="plain" onClick={() => lineUp.attempt(addPort())}>
        <Plus size={15} aria-hidden /> Add {device.ports.length === 0 ? 'a port' : 'another port'}
      </Button>
    </section>
  )
}

function PortRow({ job, device, port, lineUp }: PortsProps & { readonly port: Port }) {
  const called = `${port.name} of ${device.tag}`
  return (
    <div className="flex min-w-0 flex-wrap items-center gap-1.5">
      <Editable
        label={`Name of ${called}`}
        text={port.name}
        read={readLine}
        onSave={(name) => lineUp.editPort(device, port, { name })}
      />
      <Editable
        typed
        label={`Address at ${called}`}
        text={port.address ?? ''}
        read={readAddress}
        onSave={(text) => {
          const address = parseIpv4(text)
          return lineUp.editPort(device, port, { address: address.ok ? formatIpv4(address.value) : null })
        }}
      />
      <Choice
        hideLabel
        label={`Network at ${called}`}
        value={port.networkId ?? ''}
        choices={[
          { value: '', label: 'none yet' },
          ...job.networks.map(({ id, name }) => ({ value: id, label: name })),
        ]}
        onChange={(networkId) => lineUp.attempt(lineUp.editPort(device, port, { networkId: networkId || null }))}
      />
      <Button
        look="icon"
        aria-label={`Remove ${called}`}
        onClick={() => lineUp.attempt(lineUp.removeRow(`${called} removed.`, 'port', port))}
      >
        <Trash2 size={15} />
      </Button>
    </div>
  )
}
