import { formatMask, parseIpv4, parseMask, prefixLength } from '@calm/core/address'
import { parseHardwareAddress } from '@calm/core/identity'
import { deviceKinds, type Device, type DeviceKind, type Job } from '@calm/core/job'
import { ok, parseWholeNumber } from '@calm/core/units'
import { Trash2 } from 'lucide-react'
import { Choice, Editable } from '../../ui'
import { readLine } from './readers'
import type { LineUp } from './useLineUp'

const readMaskOrNone = (text: string) => (text.trim() === '' ? ok(null) : parseMask(text))
const readGatewayOrNone = (text: string) => (text.trim() === '' ? ok(null) : parseIpv4(text))
const readMacOrNone = (text: string) => (text.trim() === '' ? ok(null) : parseHardwareAddress(text))
const readPort = (text: string) =>
  parseWholeNumber(text, { name: 'TCP port', min: 1, max: 65_535, reason: 'A port is a 16-bit number.' })

/** What the table has no room for. */
export function DeviceDetails({
  job,
  device,
  lineUp,
  onRemove,
}: {
  job: Job
  device: Device
  lineUp: LineUp
  onRemove: () => void
}) {
  const [port] = device.ports
  const maskText = port?.prefix == null ? '' : formatMask(prefixLength(port.prefix))
  return (
    <section className="details" aria-label={`More of ${device.tag}`}>
      <h3>{device.tag} in detail</h3>
      <dl className="detail-grid">
        <dt>Kind</dt>
        <dd>
          <Choice
            hideLabel
            label={`Kind of ${device.tag}`}
            value={device.kind}
            choices={Object.entries(deviceKinds).map(([value, facts]) => ({ value, label: facts.name }))}
            onChange={(kind) => lineUp.attempt(lineUp.editDevice(device, { kind: kind as DeviceKind }))}
          />
        </dd>
        {port && (
          <>
            <dt>Network</dt>
            <dd>
              <Choice
                hideLabel
                label={`Network of ${device.tag}`}
                value={port.networkId ?? ''}
                choices={[
                  { value: '', label: 'none yet' },
                  ...job.networks.map((network) => ({ value: network.id, label: network.name })),
                ]}
                onChange={(networkId) =>
                  lineUp.attempt(lineUp.editPort(device, port, { networkId: networkId === '' ? null : networkId }))
                }
              />
            </dd>
            <dt>Subnet mask</dt>
            <dd>
              <Editable
                typed
                label={`Subnet mask of ${device.tag}`}
                text={maskText}
                spoken={maskText || 'as its network'}
                shown={
                  maskText === '' ? (
                    <span className="soft">as its network</span>
                  ) : (
                    <span className="typed">{maskText}</span>
                  )
                }
                read={readMaskOrNone}
                onSave={(text) => {
                  const mask = parseMask(text)
                  return lineUp.editPort(device, port, { prefix: text !== '' && mask.ok ? mask.value : null })
                }}
              />
            </dd>
            <dt>Gateway</dt>
            <dd>
              <Editable
                typed
                label={`Gateway of ${device.tag}`}
                text={port.gateway ?? ''}
                spoken={port.gateway ?? 'none'}
                shown={
                  port.gateway ? <span className="typed">{port.gateway}</span> : <span className="soft">none</span>
                }
                read={readGatewayOrNone}
                onSave={(gateway) => lineUp.editPort(device, port, { gateway: gateway === '' ? null : gateway })}
              />
            </dd>
            <dt>MAC address</dt>
            <dd>
              <Editable
                typed
                label={`Hardware address of ${device.tag}`}
                text={port.mac ?? ''}
                spoken={port.mac ?? 'not read yet'}
                shown={
                  port.mac ? <span className="typed">{port.mac}</span> : <span className="soft">not read yet</span>
                }
                read={readMacOrNone}
                onSave={(text) => {
                  const mac = parseHardwareAddress(text)
                  return lineUp.editPort(device, port, { mac: mac.ok ? mac.value : null })
                }}
              />
            </dd>
            <dt>TCP port</dt>
            <dd>
              <Editable
                typed
                label={`TCP port of ${device.tag}`}
                text={String(port.tcpPort)}
                read={readPort}
                onSave={(text) => lineUp.editPort(device, port, { tcpPort: Number(text) })}
              />
            </dd>
          </>
        )}
        <dt>Note</dt>
        <dd>
          <Editable
            label={`Note on ${device.tag}`}
            text={device.note}
            read={readLine}
            onSave={(note) => lineUp.editDevice(device, { note })}
          />
        </dd>
      </dl>
      <div>
        <button type="button" className="plain" onClick={onRemove}>
          <Trash2 size={15} aria-hidden /> Remove {device.tag}
        </button>
      </div>
    </section>
  )
}
