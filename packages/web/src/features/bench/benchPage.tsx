import { faultNames, type Faults, type StandInView } from '@calm/contract/live'
import { Switch } from 'radix-ui'
import { useId } from 'react'
import { useBench, useSetFaults } from '../../api'
import { Problems } from '../../ui'
import { Fronts } from './fronts'

/** The stand-ins, with a switch for each thing that goes wrong in the field. */
export function BenchPage() {
  const bench = useBench()
  const set = useSetFaults()
  return (
    <main className="sheet ho" tabIndex={-1}>
      <div className="head">
        <h1>Bench</h1>
        <p className="soft">Stand-ins that speak real Modbus TCP on loopback addresses. Nothing real moves.</p>
      </div>
      <Problems reason={bench.error ?? set.error} />
      <table className="bench-table">
        <caption className="visually-hidden">Stand-ins and their switches</caption>
        <tbody>
          {bench.data?.map((standIn) => (
            <StandInRow
              key={standIn.tag}
              standIn={standIn}
              onSet={(faults) => set.mutate({ tag: standIn.tag, faults })}
            />
          ))}
        </tbody>
      </table>
      <Fronts />
    </main>
  )
}

function StandInRow({ standIn, onSet }: { standIn: StandInView; onSet: (faults: Faults) => void }) {
  return (
    <tr>
      <th scope="row">
        {standIn.tag}
        <p className="note">{standIn.what}</p>
      </th>
      <td>
        <p className="typed nowrap">{standIn.plannedAddress}</p>
        <p className="note nowrap">served on {standIn.servedAt}</p>
        <p className="note nowrap">{standIn.state}</p>
        <p className="note nowrap">{standIn.requestCount} requests taken</p>
      </td>
      <td>
        <div className="switches">
          {(Object.keys(faultNames) as (keyof Faults)[]).map((fault) => (
            <FaultSwitch
              key={fault}
              tag={standIn.tag}
              fault={fault}
              on={standIn.faults[fault]}
              onTurn={(on) => onSet({ ...standIn.faults, [fault]: on })}
            />
          ))}
        </div>
      </td>
    </tr>
  )
}

function FaultSwitch({
  tag,
  fault,
  on,
  onTurn,
}: {
  tag: string
  fault: keyof Faults
  on: boolean
  onTurn: (on: boolean) => void
}) {
  const id = useId()
  const { name, explain } = faultNames[fault]
  return (
    <div className="switch-line">
      <Switch.Root id={id} className="switch" checked={on} onCheckedChange={onTurn} aria-label={`${name}, ${tag}`}>
        <Switch.Thumb />
      </Switch.Root>
      <label htmlFor={id}>
        <b>{name}</b>
        <p className="note">{explain}</p>
      </label>
    </div>
  )
}
