import {
  claspFor,
  deviceOf,
  ladderFor,
  pendingTermsOf,
  standingFor,
  termContextOf,
  type Handshake,
  type Job,
} from '@calm/core/job'
import {
  claspOf,
  exchanges,
  otherEnd,
  termIds,
  type Clasp,
  type Exchange,
  type TermContext,
  type TermId,
} from '@calm/core/terms'
import { useEffect, useMemo, useState } from 'react'
import { flushSync } from 'react-dom'
import { Link, useLocation, useSearchParams } from 'react-router'
import { api } from '@calm/contract/api'
import { useAct } from '../../api'
import { useStage } from '../../shell'
import { button, Button, Choice, cn, LadderStrip, Problems, Sheet, Toggles } from '../../ui'
import { BEGUN, HandshakePicker, NoHandshake, useChosenHandshake } from '../handshake'
import { ClaspView } from './claspView'
import { ColumnsView } from './columnsView'
import { CompareView } from './compareView'
import { CyclicPanel } from './cyclicPanel'
import { LegsLine } from './legsLine'
import { LinePanel } from './linePanel'
import { MoreTerms } from './moreTerms'
import { PendingView } from './pendingView'
import { ProfilesView } from './profilesView'
import { RemoveHandshake } from './removeHandshake'
import { openAt, useTermEdit, type TermEdit } from './useTermEdit'

/** The terms of one handshake, both ends side by side. */
export function TermsPage() {
  const { job } = useStage()
  const handshake = useChosenHandshake(job)
  const [search] = useSearchParams()
  if (!handshake) return <NoHandshake job={job} stage="Terms" />
  const view = search.get('view')
  if (view === 'all' || view === 'pending' || view === 'profiles')
    return (
      <Sheet className="flex flex-col">
        <header className="flex flex-wrap items-center gap-x-4 gap-y-1 px-5 pt-2.5 pb-2">
          <h1>{heads[view]}</h1>
          <Link to={`/jobs/${job.id}/terms/${handshake.id}`}>One by one</Link>
          {view !== 'all' && <Link to={`/jobs/${job.id}/terms?view=all`}>Compare all</Link>}
          {view !== 'pending' && <PendingLink job={job} />}
          {view !== 'profiles' && <ProfilesLink job={job} handshake={handshake} />}
        </header>
        {view === 'all' && <CompareView job={job} />}
        {view === 'pending' && <PendingView job={job} />}
        {view === 'profiles' && <ProfilesView job={job} from={search.get('device') ?? handshake.deviceId} />}
      </Sheet>
    )
  return <Terms key={handshake.id} job={job} handshake={handshake} />
}

function Terms({ job, handshake }: { job: Job; handshake: Handshake }) {
  const context = useMemo(() => termContextOf(job, handshake), [job, handshake])
  const clasp = useMemo(() => claspOf(context), [context])
  const terms = useTermEdit(job, handshake)
  const standing = useMemo(() => standingFor(job, handshake), [job, handshake])
  const [search, setSearch] = useSearchParams()
  const isColumns = search.get('view') === 'columns'
  const [added, setAdded] = useState<readonly TermId[]>([])
  const [folds, setFolds] = useState(clasp.rows.length > FOLD_FROM)
  const { rows, agreeing, more } = rowsShown(clasp, added, folds)
  const say = (id: TermId) => {
    flushSync(() => setAdded([...added, id]))
    document.querySelector<HTMLElement>(`[data-term="${id}"] [data-term-value=device]`)?.focus()
  }
  const begun = useLocation().state === BEGUN
  useEffect(() => {
    // What is not known yet, after the terms that the line-up knows; a first digit is its first character.
    const open = '[data-state=unknown] [data-term-value=device]'
    const rows = [...document.querySelectorAll<HTMLElement>(open)]
    if (begun) (rows.find((each) => each.closest('[data-group=request]')) ?? rows[0])?.focus()
  }, [begun])
  const controller = deviceOf(job, handshake.controllerId)
  const device = deviceOf(job, handshake.deviceId)
  return (
    <Sheet className="flex flex-col">
      <header className="grid grid-cols-[230px_1fr_110px_1fr_230px] items-center gap-3 px-5 pt-2.5 pb-2 max-desk:grid-cols-[200px_1fr_100px_1fr] max-phone:grid-cols-[1fr_80px_1fr] max-phone:px-3">
        <div className="max-phone:col-span-full">
          <div className="flex items-baseline gap-3">
            <h1>Terms</h1>
            {job.handshakes.length > 1 && (
              <Link className="text-note whitespace-nowrap" to={`/jobs/${job.id}/terms?view=all`}>
                Compare all
              </Link>
            )}
            <PendingLink job={job} />
          </div>
          <HandshakePicker
            job={job}
            stage="terms"
            chosen={handshake}
            isAtOdds={(each) => claspFor(job, each).atOdds > 0}
          />
        </div>
        <div className="text-right leading-tight">
          <span className="block text-note text-ink-soft">Controller end</span>
          <b className="text-head leading-tight font-heavy">{controller?.tag}</b>
          <span className="block text-note text-ink-soft">{controller?.what}</span>
        </div>
        <p className={cn('text-center leading-tight', clasp.atOdds > 0 && '[&>b]:text-odds')} role="status">
          <b className="block font-text text-lead leading-tight font-heavy">
            {clasp.agreeing} of {clasp.total}
          </b>
          <span className="text-note leading-snug text-ink-soft">agree</span>
        </p>
        <div className="leading-tight">
          <span className="block text-note text-ink-soft">Device end</span>
          <b className="text-head leading-tight font-heavy">{device?.tag}</b>
          <span className="block text-note text-ink-soft">{device?.what}</span>
        </div>
        <div className="flex flex-col items-end gap-1 max-desk:hidden">
          <div className="flex items-center gap-4">
            <ProfilesLink job={job} handshake={handshake} />
            <Choice
              label="They speak"
              hideLabel
              size="small"
              value={handshake.exchange}
              choices={(Object.keys(exchanges) as Exchange[]).map((value) => ({ value, label: exchanges[value].name }))}
              onChange={terms.speak}
            />
          </div>
          <Toggles
            label="Shown as"
            size="small"
            value={isColumns ? 'columns' : 'clasp'}
            items={[
              { value: 'clasp', say: 'Both ends' },
              { value: 'columns', say: 'Four columns', tip: 'Planned, as found, entered, in force' },
            ]}
            onChange={(next) => setSearch(next === 'columns' ? { view: 'columns' } : {}, { replace: true })}
          />
        </div>
      </header>
      {isColumns ? (
        <ColumnsView job={job} handshake={handshake} clasp={clasp} context={context} />
      ) : (
        <>
          <LegsLine job={job} handshake={handshake} clasp={clasp} />
          <ClaspView clasp={{ rows }} context={context} terms={terms} standing={standing} />
          <TakeOver clasp={clasp} context={context} terms={terms} />
          <MoreTerms more={more} onSay={say}>
            {clasp.agreeing > 0 && (folds ? agreeing > 0 : clasp.atOdds > 0 || clasp.rows.length > FOLD_FROM) && (
              <Button look="plain" className="text-note" onClick={() => setFolds(!folds)}>
                {folds ? `${agreeing} agree: show them` : 'Only what does not agree'}
              </Button>
            )}
          </MoreTerms>
          <LinePanel job={job} handshake={handshake} />
          <CyclicPanel job={job} handshake={handshake} />
        </>
      )}
      <TermsFoot job={job} handshake={handshake} agreed={clasp.agreeing === clasp.total} problem={terms.problem} />
    </Sheet>
  )
}

/** So many rows are seen at once; more are folded to what does not agree. */
const FOLD_FROM = 16

/** What stands in the clasp: what is asked or said, what was picked to be said, without what agrees where that is folded. */
function rowsShown(clasp: Clasp, added: readonly TermId[], folds: boolean) {
  const all = [...clasp.rows, ...clasp.more.filter(({ id }) => added.includes(id))]
  const inOrder = termIds.flatMap((id) => all.find((row) => row.id === id) ?? [])
  const rows = folds
    ? inOrder.filter(({ state, id }) => (state !== 'equal' && state !== 'fits') || added.includes(id))
    : inOrder
  return { rows, agreeing: inOrder.length - rows.length, more: clasp.more.filter(({ id }) => !added.includes(id)) }
}

const heads = { all: 'Terms of all handshakes', pending: 'Not in force yet', profiles: 'Profiles' } as const

/** A device's settings as a kind, put on others. */
const ProfilesLink = ({ job, handshake }: { job: Job; handshake: Handshake }) => (
  <Link className="text-note" to={`/jobs/${job.id}/terms?view=profiles&device=${handshake.deviceId}`}>
    Profiles
  </Link>
)

/** How much is entered and not in force yet, or was found otherwise, over the whole job. */
function PendingLink({ job }: { job: Job }) {
  const count = useMemo(() => pendingTermsOf(job).reduce((sum, { terms }) => sum + terms.length, 0), [job])
  return (
    <Link className="text-note whitespace-nowrap" to={`/jobs/${job.id}/terms?view=pending`}>
      {count === 0 ? 'Pending' : `${count} pending`}
    </Link>
  )
}

/** What only one end says can stand at the other too; whether that end really runs it, its program or display shows. */
function TakeOver({ clasp, context, terms }: { clasp: Clasp; context: TermContext; terms: TermEdit }) {
  const ends = (['controller', 'device'] as const).map((end) => ({ end, rows: openAt(clasp.rows, end) }))
  if (ends.every(({ rows }) => rows.length === 0)) return null
  return (
    <div className="mt-2 flex flex-wrap items-center gap-3 px-5 pb-3">
      {ends.map(({ end, rows }) => {
        const from = context.tags[otherEnd[end]]
        return (
          rows.length > 0 && (
            <Button key={end} onClick={() => terms.takeOver(rows, end, from)}>
              Write the {rows.length} open term{rows.length === 1 ? '' : 's'} of {context.tags[end]} as {from} says
            </Button>
          )
        )
      })}
      <span className="note">
        Enter edits a term, Tab goes on, = takes over what the other end says. Both ends are still to be looked at.
      </span>
    </div>
  )
}

function TermsFoot({
  job,
  handshake,
  agreed,
  problem,
}: {
  job: Job
  handshake: Handshake
  agreed: boolean
  problem: unknown
}) {
  const ladder = useMemo(() => ladderFor(job, handshake), [job, handshake])
  const confirm = useAct(job.id, api.agreed)
  const rung = ladder.rungs.find((each) => each.rung === 'agreed')
  return (
    <footer className="flex flex-wrap items-center gap-x-6 gap-y-3 border-t border-rule-strong px-5 pt-3 pb-3.5">
      <LadderStrip ladder={ladder} />
      <p className="flex-1 note">Agreed: {rung?.because || rung?.missing}</p>
      <Problems reason={problem ?? confirm.error} />
      {rung?.state !== 'proven' && (
        <Button look="act" disabled={!agreed} onClick={() => confirm.mutate({ params: { id: handshake.id } })}>
          They are in force at both ends
        </Button>
      )}
      <RemoveHandshake job={job} handshake={handshake} />
      <Link className={button()} to={`/jobs/${job.id}/proof/${handshake.id}`}>
        On to Proof
      </Link>
    </footer>
  )
}
