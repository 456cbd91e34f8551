import type { Me } from '@calm/contract'
import type { Job } from '@calm/core/job'
import type { WalkRecord } from '@calm/core/procedure'
import { ok, refusal } from '@calm/core/units'
import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { NavLink, useLocation, useParams } from 'react-router'
import { api } from '@calm/contract/api'
import { call, useLaptopState, useMe } from '../api'
import { Button, cn, Editable, Glyph, rounded, seamDown, tip } from '../ui'
import type { StageOnWalk } from './stages'
import { Waits } from './waits'

const HEIGHT = 54
const MIDDLE = 9

/** One stage of the seam: closed from the top by the share that is done, two loose rails below. */
function Zip({ share, next }: { share: number; next: number }) {
  const y = Number((HEIGHT * share).toFixed(2))
  const turn = Math.min(9, (HEIGHT - y) / 2)
  const rail = (side: -1 | 1) => {
    const x = MIDDLE + side * 5
    const top =
      share > 0 ? `${MIDDLE} ${y}C${MIDDLE} ${y + turn / 2} ${x} ${y + turn / 3} ${x} ${y + turn}` : `${x} ${y + 2}`
    const end =
      next > 0
        ? `V${HEIGHT - turn}C${x} ${HEIGHT - turn / 3} ${MIDDLE} ${HEIGHT - turn / 2} ${MIDDLE} ${HEIGHT}`
        : `V${HEIGHT - 2}`
    return `M${top}${end}`
  }
  return (
    <svg
      className="overflow-visible max-phone:hidden"
      width="18"
      height={HEIGHT}
      viewBox={`0 0 18 ${HEIGHT}`}
      aria-hidden="true"
    >
      {share > 0 && (
        <path
          className="fill-none stroke-proven stroke-[2.6] [stroke-linejoin:round]"
          d={rounded(seamDown(MIDDLE, 0, y, 9, 2.6), 1.6)}
        />
      )}
      {share < 1 && (
        <path className="fill-none stroke-ink-faint stroke-[1.6] [stroke-linecap:round]" d={rail(-1) + rail(1)} />
      )}
    </svg>
  )
}

const shareOf = (stage: StageOnWalk | undefined) => (stage && stage.total > 0 ? stage.done / stage.total : 0)

function Sub({ stage }: { stage: StageOnWalk }) {
  if (stage.atOdds > 0) {
    return (
      <span className="mt-0.5 flex items-center gap-1.25 overflow-hidden text-note whitespace-nowrap text-ink-soft max-phone:hidden">
        <Glyph state="at-odds" size={12} /> {stage.atOdds} at odds
      </span>
    )
  }
  if (stage.waiting === 0) return null
  return (
    <span className="mt-0.5 flex items-center gap-1.25 overflow-hidden text-note whitespace-nowrap text-ink-soft max-phone:hidden">
      <Glyph state="waiting" size={12} /> {stage.waiting} waiting
    </span>
  )
}

/** The stages in working order, and at the foot what this laptop is. */
interface WalkProps {
  readonly job: Job
  readonly stages: readonly StageOnWalk[]
  readonly walk: WalkRecord | undefined
}

export function Walk({ job, stages, walk }: WalkProps) {
  const { jobId = '' } = useParams()
  const { pathname } = useLocation()
  const list = useRef<HTMLOListElement>(null)
  // On a phone the stages lie in a row: the one in hand is in sight.
  useEffect(() => {
    const [here] = list.current?.querySelectorAll('[aria-current=page]') ?? []
    here?.scrollIntoView({ inline: 'center', block: 'nearest' })
  }, [pathname])
  return (
    <nav
      className="flex min-h-0 flex-col overflow-auto pt-2.5 pb-3 [grid-area:walk] print:hidden"
      aria-label="The walk"
    >
      <ol ref={list} className="max-phone:flex max-phone:overflow-auto">
        {stages.map((stage, k) => (
          <li key={stage.path}>
            <NavLink
              className="group relative flex h-13.5 items-center gap-2 pr-2 pl-3.5 no-underline not-aria-[current=page]:hover:bg-ground-press focus-visible:-outline-offset-3 aria-[current=page]:bg-sheet max-phone:h-11"
              to={`/jobs/${jobId}/${stage.path}`}
            >
              <Zip share={shareOf(stage)} next={shareOf(stages[k + 1])} />
              <span className="min-w-0 flex-1 leading-tight">
                <span className="block whitespace-nowrap group-aria-[current=page]:font-strong">{stage.name}</span>
                <Sub stage={stage} />
              </span>
              <span className={cn('font-text text-row leading-none font-heavy', stage.total > 99 && 'text-right')}>
                {stage.done}
                <i className={cn('font-read text-ink-soft', stage.total > 99 && 'mt-0.75 block')}>/{stage.total}</i>
              </span>
            </NavLink>
          </li>
        ))}
      </ol>
      {job.mode === 'bench' && (
        <ul className="mt-3.5 max-phone:hidden">
          <li>
            <NavLink
              className="group relative flex h-9.5 items-center gap-2 pr-2 pl-10.5 no-underline not-aria-[current=page]:hover:bg-ground-press focus-visible:-outline-offset-3 aria-[current=page]:bg-sheet max-phone:h-11"
              to={`/jobs/${jobId}/bench`}
            >
              <span className="block flex-1 whitespace-nowrap">Bench</span>
            </NavLink>
          </li>
        </ul>
      )}
      <Tray jobId={jobId} walk={walk} />
    </nav>
  )
}

/** Ends the session on the server; the page then asks for a passcode again. */
async function logOut(): Promise<void> {
  await call(api.logOut, {})
  window.location.assign('/')
}

/** Who stands beside what is recorded. Behind a passcode the name is that of the log-in. */
function SignedAs({ me }: { me: Me }) {
  const client = useQueryClient()
  if (me.guarded) {
    return (
      <p className="mb-3 font-typed text-row leading-normal font-medium tracking-[-0.02em]">
        {me.name}, {me.role}{' '}
        <Button look="plain" onClick={() => void logOut()}>
          Log out
        </Button>
      </p>
    )
  }
  return (
    <div className="mb-3 font-typed text-row leading-normal font-medium tracking-[-0.02em]">
      <Editable
        label="Your name"
        text={me.name}
        read={(text) =>
          text.trim() === '' ? refusal('name.blank', 'The name is blank.', 'nothing', 'your name') : ok(text)
        }
        onSave={async (name) => client.setQueryData(['me'], await call(api.setMe, {}, { name }))}
      />
    </div>
  )
}

function Tray({ jobId, walk }: { jobId: string; walk: WalkRecord | undefined }) {
  const laptop = useLaptopState(jobId)
  const me = useMe()
  const wired = laptop.data?.interfaces.filter((entry) => !entry.loopback) ?? []
  return (
    <div className="mt-auto pt-3 pr-3 pl-3.5 max-phone:hidden">
      <Waits walk={walk} />
      <p className="text-note text-ink-soft">{wired.length > 0 ? 'This laptop is at' : 'This laptop is'}</p>
      <div className="mb-3 font-typed text-row leading-normal font-medium tracking-[-0.02em]">
        {wired.slice(0, 3).map((entry) => (
          <div key={`${entry.name}${entry.address}`} {...tip(entry.name)}>
            {entry.address}/{entry.prefix}
          </div>
        ))}
        {wired.length === 0 && 'off the wire'}
      </div>
      <p className="text-note text-ink-soft">Signed as</p>
      {me.data && <SignedAs me={me.data} />}
      <NavLink
        to="/"
        className="relative flex h-auto items-center gap-2 p-0 text-row font-heavy no-underline not-aria-[current=page]:hover:bg-ground-press focus-visible:-outline-offset-3 aria-[current=page]:bg-sheet max-phone:h-11"
      >
        <Glyph state="proven" size={20} />
        Calm Handshake
      </NavLink>
    </div>
  )
}
