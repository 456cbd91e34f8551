import type { Me } from '@calm/contract'
import type { Job } from '@calm/core/job'
import type { WalkRecord } from '@calm/core/procedure'
import { ok, refusal } from '@calm/core/units'
import { useQueryClient } from '@tanstack/react-query'
import { NavLink, useParams } from 'react-router'
import { api } from '@calm/contract/api'
import { call, useLaptopState, useMe } from '../api'
import { Editable, Glyph, rounded, seamDown } from '../ui'
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
    <svg className="zip" width="18" height={HEIGHT} viewBox={`0 0 18 ${HEIGHT}`} aria-hidden="true">
      {share > 0 && <path className="z-closed" d={rounded(seamDown(MIDDLE, 0, y, 9, 2.6), 1.6)} />}
      {share < 1 && <path className="z-open" d={rail(-1) + rail(1)} />}
    </svg>
  )
}

const shareOf = (stage: StageOnWalk | undefined) => (stage && stage.total > 0 ? stage.done / stage.total : 0)

function Sub({ stage }: { stage: StageOnWalk }) {
  if (stage.atOdds > 0) {
    return (
      <span className="sub">
        <Glyph state="at-odds" size={12} /> {stage.atOdds} at odds
      </span>
    )
  }
  if (stage.waiting === 0) return null
  return (
    <span className="sub">
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
  return (
    <nav className="walk" aria-label="The walk">
      <ol>
        {stages.map((stage, k) => (
          <li key={stage.path}>
            <NavLink to={`/jobs/${jobId}/${stage.path}`}>
              <Zip share={shareOf(stage)} next={shareOf(stages[k + 1])} />
              <span className="st">
                <span className="n">{stage.name}</span>
                <Sub stage={stage} />
              </span>
              <span className={`c ${stage.total > 99 ? 'high' : ''}`}>
                {stage.done}
                <i>/{stage.total}</i>
              </span>
            </NavLink>
          </li>
        ))}
      </ol>
      {job.mode === 'bench' && (
        <ul className="aside">
          <li>
            <NavLink to={`/jobs/${jobId}/bench`}>
              <span className="n">Bench</span>
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
      <p className="lap">
        {me.name}, {me.role}{' '}
        <button type="button" className="plain" onClick={() => void logOut()}>
          Log out
        </button>
      </p>
    )
  }
  return (
    <div className="lap">
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
    <div className="tray">
      <Waits walk={walk} />
      <p className="label">{wired.length > 0 ? 'This laptop is at' : 'This laptop is'}</p>
      <div className="lap">
        {wired.slice(0, 3).map((entry) => (
          <div key={`${entry.name}${entry.address}`} title={entry.name}>
            {entry.address}/{entry.prefix}
          </div>
        ))}
        {wired.length === 0 && 'off the wire'}
      </div>
      <p className="label">Signed as</p>
      {me.data && <SignedAs me={me.data} />}
      <NavLink to="/" className="mark">
        <Glyph state="proven" size={20} />
        Calm Handshake
      </NavLink>
    </div>
  )
}
