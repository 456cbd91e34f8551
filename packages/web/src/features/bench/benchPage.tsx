import { faultNames, type Faults, type StandInView } from '@calm/contract/live'
import { useBench, useSetFaults } from '../../api'
import { useStage } from '../../shell'
import { Button, Glyph, Problems, Sheet, Switch } from '../../ui'
import { Fronts } from './fronts'

/** The stand-ins, with a switch for each thing that goes wrong in the field. */
export function BenchPage() {
  const { job } = useStage()
  const bench = useBench()
  const set = useSetFaults()
  return (
    <Sheet className="px-6 pt-3 pb-6">
      <div className="sticky -top-3 z-6 -mt-3 flex min-h-16 flex-wrap items-center gap-x-3.5 bg-sheet pt-3">
        <h1>Bench</h1>
        <p className="text-ink-soft">Stand-ins that speak real Modbus TCP on loopback addresses. Nothing real moves.</p>
      </div>
      <Problems reason={bench.error ?? set.error} />
      <ul aria-label="Stand-ins and their switches">
        {bench.data?.map((standIn) => (
          <StandIn key={standIn.tag} standIn={standIn} onSet={(faults) => set.mutate({ tag: standIn.tag, faults })} />
        ))}
      </ul>
      <Fronts tags={job.devices.map(({ tag }) => tag)} />
    </Sheet>
  )
}

const faults = Object.keys(faultNames) as (keyof Faults)[]

function StandIn({ standIn, onSet }: { standIn: StandInView; onSet: (faults: Faults) => void }) {
  const wrong = faults.filter((fault) => standIn.faults[fault])
  const asItShouldBe = () => onSet(Object.fromEntries(faults.map((fault) => [fault, false])) as unknown as Faults)
  return (
    <li
      className="grid grid-cols-[210px_minmax(0,1fr)] gap-5 border-t border-rule py-3.5 max-phone:grid-cols-1"
      aria-label={standIn.tag}
    >
      <div>
        <h2 className="text-body">{standIn.tag}</h2>
        <p className="note">{standIn.what}</p>
        <p className="mt-1.5 font-typed text-row font-medium">{standIn.plannedAddress}</p>
        <p className="note">served on {standIn.servedAt}</p>
        <p className="note">{standIn.state}</p>
        <p className="note">{standIn.requestCount} requests taken</p>
        {wrong.length > 0 && (
          <>
            <p className="mt-1.5 flex items-center gap-1.5 text-row font-firm text-odds">
              <Glyph state="at-odds" size={15} /> {wrong.length} wrong on purpose
            </p>
            <Button look="plain" className="-ml-1.5" onClick={asItShouldBe}>
              All as it should be
            </Button>
          </>
        )}
      </div>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(230px,1fr))] content-start gap-x-5 gap-y-2.5">
        {faults.map((fault) => (
          <Switch
            key={fault}
            label={`${faultNames[fault].name}, ${standIn.tag}`}
            on={standIn.faults[fault]}
            onTurn={(on) => onSet({ ...standIn.faults, [fault]: on })}
          >
            <b>{faultNames[fault].name}</b>
            <p className="note">{faultNames[fault].explain}</p>
          </Switch>
        ))}
      </div>
    </li>
  )
}
