import { Address, Editable, Glyph, LadderStrip } from '../../ui'
import type { DeviceLine } from './lines'
import { readAddress, readLine, readTag, readUnit } from './readers'
import type { LineUp } from './useLineUp'

interface RowProps {
  readonly line: DeviceLine
  /** Place in the whole table, its head being 1. */
  readonly rowIndex: number
  readonly lineUp: LineUp
  readonly selected: boolean
  readonly onSelect: () => void
}

/** One device: every value is edited where it stands. */
export function DeviceRow({ line, rowIndex, lineUp, selected, onSelect }: RowProps) {
  const { device, behind, state } = line
  const [port] = device.ports
  const addressOdds = line.findings.some((finding) => finding.severity !== 'worth-knowing')
  const classes = [behind && 'behind', line.lastBehind && 'last', addressOdds && 'is-odds'].filter(Boolean).join(' ')
  return (
    <tr
      className={classes}
      aria-selected={selected}
      aria-rowindex={rowIndex}
      onClick={onSelect}
      data-device={device.id}
    >
      <th scope="row">
        <Editable
          label={`Tag of ${device.tag}`}
          text={device.tag}
          read={readTag}
          onOpen={onSelect}
          onSave={(tag) => lineUp.editDevice(device, { tag })}
        />
      </th>
      <td>
        <Editable
          label={`What ${device.tag} is`}
          text={device.what}
          read={readLine}
          onOpen={onSelect}
          onSave={(what) => lineUp.editDevice(device, { what })}
        />
      </td>
      <td className="hide-narrow soft">
        <Editable
          label={`Where ${device.tag} was found`}
          text={device.asFound}
          shown={/^[\d.]+$/.test(device.asFound) ? <Address text={device.asFound} /> : undefined}
          read={readLine}
          onOpen={onSelect}
          onSave={(asFound) => lineUp.editDevice(device, { asFound })}
        />
      </td>
      <td className="goes">
        {port ? (
          <Editable
            typed
            label={`Planned address of ${device.tag}`}
            text={port.address ?? ''}
            shown={port.address ? <Address text={port.address} /> : undefined}
            read={readAddress}
            onOpen={onSelect}
            onSave={(address) => lineUp.editPort(device, port, { address: address === '' ? null : address })}
          />
        ) : (
          <span className="soft">{behind ? `via ${behind.tag}` : 'no port'}</span>
        )}
      </td>
      <td>
        <Editable
          typed
          label={`Unit id of ${device.tag}`}
          text={device.unitId === null ? '' : String(device.unitId)}
          shown={device.unitId === null ? undefined : <span className="typed">{device.unitId}</span>}
          read={readUnit}
          onOpen={onSelect}
          onSave={(text) => lineUp.editDevice(device, { unitId: text === '' ? null : Number(text) })}
        />
      </td>
      <td className="hide-narrow">
        {line.ladder ? <LadderStrip ladder={line.ladder} /> : <span className="soft">–</span>}
      </td>
      <td>
        <span className={`finding-cell state ${state}`}>
          <Glyph state={state} size={15} />
          <span title={line.say}>{line.say}</span>
        </span>
      </td>
    </tr>
  )
}
