import { deviceOf, ladderFor, type Handshake, type Job } from '@calm/core/job'
import { useDeferredValue } from 'react'
import { useSearchParams } from 'react-router'
import { useEdit, useUndoKeys } from '../../edit'
import { useStage } from '../../shell'
import { Problems, Sheet, Toggles } from '../../ui'
import { HandshakePicker, NoHandshake, useChosenHandshake } from '../handshake'
import { MessagesView } from './messagesView'
import { ModulesView } from './modulesView'
import { PointsView } from './pointsView'
import { RequestsView } from './requestsView'
import { WhyView } from './whyView'

const views = {
  points: 'Points',
  why: 'Why is it wrong',
  requests: 'Requests',
  modules: 'Modules',
  messages: 'Messages',
} as const
type ViewId = keyof typeof views
const isView = (text: string | null): text is ViewId => text !== null && text in views

/** Data path: every value from its register to its tag, byte by byte. */
export function DataPathPage() {
  const { job } = useStage()
  const handshake = useChosenHandshake(job)
  if (!handshake) return <NoHandshake job={job} stage="Data path" />
  return <DataPath key={handshake.id} job={job} handshake={handshake} />
}

function DataPath({ job, handshake }: { job: Job; handshake: Handshake }) {
  const [search, setSearch] = useSearchParams()
  const asked = search.get('view')
  const view = isView(asked) ? asked : 'points'
  const edit = useEdit(job)
  useUndoKeys(
    () => edit.attempt(edit.undo()),
    () => edit.attempt(edit.redo()),
  )
  const show = (next: ViewId, pointId?: string) =>
    setSearch({ ...(next !== 'points' && { view: next }), ...(pointId && { point: pointId }) }, { replace: true })
  // What is edited is drawn first; which handshakes are at odds follows.
  const settled = useDeferredValue(job)
  const isAtOdds = ({ id }: Handshake) => {
    const own = settled.handshakes.find((each) => each.id === id)
    return own !== undefined && ladderFor(settled, own).rungs.some((rung) => rung.state === 'at-odds')
  }
  const device = deviceOf(job, handshake.deviceId)
  const controller = deviceOf(job, handshake.controllerId)
  const point = handshake.points.find((each) => each.id === search.get('point')) ?? handshake.points[0]
  return (
    <Sheet className="flex flex-col px-6 pb-5">
      <header className="flex flex-wrap items-end justify-between gap-x-6 gap-y-2 pt-3.5 pb-2.5">
        <div>
          <h1>Data path</h1>
          <p className="note">
            {device?.tag} to {controller?.tag}. Directions are seen from {controller?.tag}.
          </p>
        </div>
        <Toggles
          label="Shown"
          value={view}
          items={(Object.keys(views) as ViewId[]).map((value) => ({ value, say: views[value] }))}
          onChange={(next) => show(next, point?.id)}
        />
        <div className="w-60 max-tablet:w-full">
          <HandshakePicker job={job} stage="data-path" chosen={handshake} isAtOdds={isAtOdds} />
        </div>
      </header>
      <Problems reason={edit.problem} />
      {view === 'points' && (
        <PointsView job={job} handshake={handshake} edit={edit} chosen={point} onWhy={(id) => show('why', id)} />
      )}
      {view === 'why' && (
        <WhyView
          key={point?.id}
          job={job}
          handshake={handshake}
          point={point}
          edit={edit}
          onPoint={(id) => show('why', id)}
        />
      )}
      {view === 'requests' && <RequestsView job={job} handshake={handshake} edit={edit} />}
      {view === 'messages' && <MessagesView job={job} handshake={handshake} edit={edit} />}
      {view === 'modules' && <ModulesView job={job} handshake={handshake} edit={edit} />}
    </Sheet>
  )
}
