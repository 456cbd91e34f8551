import { lazy, Suspense } from 'react'
import { useSearchParams } from 'react-router'
import { useLaptopState, useWalk, useWalkActs } from '../../api'
import { useStage } from '../../shell'
import { Problems } from '../../ui'
import { usePlantConsent } from './plantConsent'
import { useFirstContact } from './useFirstContact'
import { WalkView } from './walkView'

const OrderView = lazy(() => import('./orderView').then(({ OrderView: Component }) => ({ default: Component })))
const FindView = lazy(() => import('./findView').then(({ FindView: Component }) => ({ default: Component })))
const ConsoleView = lazy(() => import('./consoleView').then(({ ConsoleView: Component }) => ({ default: Component })))
const KeptView = lazy(() => import('./keptView').then(({ KeptView: Component }) => ({ default: Component })))

const views = { walk: 'Walk', order: 'Order', find: 'Find', console: 'Console', kept: 'Kept' } as const
type ViewName = keyof typeof views

/** First contact: the walk, its order, who is there, the console, what is kept. */
export function FirstContactPage() {
  const { job } = useStage()
  const walk = useWalk(job.id)
  if (!walk.data) return <main className="sheet fc">{walk.error ? <Problems reason={walk.error} /> : null}</main>
  return <Loaded record={walk.data} />
}

function Loaded({ record }: { record: NonNullable<ReturnType<typeof useWalk>['data']> }) {
  const { job } = useStage()
  const [search, setSearch] = useSearchParams()
  const laptop = useLaptopState(job.id)
  const { acts, dialog } = usePlantConsent(job, useWalkActs(job.id))
  const contact = useFirstContact(job, record, laptop.data)
  const asked = search.get('view') ?? 'walk'
  const view: ViewName = asked in views ? (asked as ViewName) : 'walk'
  const props = { job, record, contact, acts, laptop: laptop.data }
  return (
    <main className="sheet fc" tabIndex={-1}>
      <div className="fc-head">
        <h1>First contact</h1>
        <nav className="fc-views" aria-label="Views of first contact">
          {(Object.keys(views) as ViewName[]).map((name) => (
            <button
              key={name}
              type="button"
              className={`view ${name === view ? 'chosen' : ''}`}
              aria-current={name === view ? 'page' : undefined}
              onClick={() => setSearch(name === 'walk' ? {} : { view: name })}
            >
              {views[name]}
            </button>
          ))}
        </nav>
      </div>
      <Suspense fallback={<p className="note">Opening…</p>}>
        {view === 'walk' && <WalkView {...props} />}
        {view === 'order' && <OrderView {...props} />}
        {view === 'find' && <FindView {...props} />}
        {view === 'console' && <ConsoleView {...props} />}
        {view === 'kept' && <KeptView {...props} />}
      </Suspense>
      {dialog}
    </main>
  )
}
