import { Tabs } from 'radix-ui'
import { lazy, Suspense } from 'react'
import { useSearchParams } from 'react-router'
import { useLaptopState, useWalk, useWalkActs } from '../../api'
import { useStage } from '../../shell'
import { Problems, Sheet } from '../../ui'
import { usePlantConsent } from './plantConsent'
import { useFirstContact } from './useFirstContact'
import { WalkView } from './walk'

const OrderView = lazy(() => import('./order/orderView').then(({ OrderView: Component }) => ({ default: Component })))
const FindView = lazy(() => import('./find/findView').then(({ FindView: Component }) => ({ default: Component })))
const ConsoleView = lazy(() =>
  import('./console/consoleView').then(({ ConsoleView: Component }) => ({ default: Component })),
)
const KitView = lazy(() => import('./kit/kitView').then(({ KitView: Component }) => ({ default: Component })))
const KeptView = lazy(() => import('./kept/keptView').then(({ KeptView: Component }) => ({ default: Component })))

const views = { walk: 'Walk', order: 'Order', kit: 'Kit', find: 'Find', console: 'Console', kept: 'Kept' } as const
type ViewName = keyof typeof views

/** First contact: the walk, its order, who is there, the console, what is kept. */
export function FirstContactPage() {
  const { job } = useStage()
  const walk = useWalk(job.id)
  if (!walk.data)
    return (
      <Sheet className="flex flex-col overflow-hidden max-phone:overflow-y-auto">
        {walk.error ? <Problems reason={walk.error} /> : null}
      </Sheet>
    )
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
    <Tabs.Root
      asChild
      value={view}
      onValueChange={(name) => setSearch(name === 'walk' ? {} : { view: name })}
      activationMode="manual"
    >
      <Sheet className="flex flex-col overflow-hidden max-phone:overflow-y-auto print:block print:overflow-visible">
        <div className="flex items-baseline gap-6 border-b border-rule px-6 pt-3 max-phone:flex-col max-phone:gap-0 max-phone:px-3 max-phone:pt-2 print:hidden">
          <h1 className="max-phone:text-lead">First contact</h1>
          <Tabs.List
            className="flex gap-1 max-phone:max-w-full max-phone:overflow-x-auto"
            aria-label="Views of first contact"
          >
            {(Object.keys(views) as ViewName[]).map((name) => (
              <Tabs.Trigger
                key={name}
                value={name}
                className="rounded-t-sm px-3 py-2 text-body hover:bg-ground-press data-[state=active]:bg-ground data-[state=active]:font-heavy"
              >
                {views[name]}
              </Tabs.Trigger>
            ))}
          </Tabs.List>
        </div>
        <Tabs.Content value={view} asChild>
          <div className="flex min-h-0 flex-1 flex-col outline-none max-phone:flex-none print:block">
            <Suspense fallback={<p className="note">Opening…</p>}>
              {view === 'walk' && <WalkView {...props} />}
              {view === 'order' && <OrderView {...props} />}
              {view === 'kit' && <KitView {...props} />}
              {view === 'find' && <FindView {...props} />}
              {view === 'console' && <ConsoleView {...props} />}
              {view === 'kept' && <KeptView {...props} />}
            </Suspense>
          </div>
        </Tabs.Content>
        {dialog}
      </Sheet>
    </Tabs.Root>
  )
}
