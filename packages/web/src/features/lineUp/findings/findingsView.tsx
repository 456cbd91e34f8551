import { byMatter, severities, type Finding, type Severity } from '@calm/core/findings'
import type { Job } from '@calm/core/job'
import { format } from 'date-fns/format'
import { useMemo } from 'react'
import { deviceIdsOfRows } from '../../../job'
import { useStage } from '../../../shell'
import { Button, cn, Glyph, tip } from '../../../ui'
import { Accept } from './findingView'
import { AtPoints } from './atPoints'
import type { LineUp } from '../useLineUp'

interface ViewProps {
  readonly head: React.ReactNode
  readonly job: Job
  readonly lineUp: LineUp
  readonly onPick: (deviceId: string) => void
}

/** Everything found about the line-up as one list, unsafe first; what was accepted stands below with its reason. */
export function FindingsView({ head, job, lineUp, onPick }: ViewProps) {
  const { findings, accepted } = useStage()
  const owners = useMemo(() => deviceIdsOfRows(job), [job])
  const tags = useMemo(() => new Map(job.devices.map((device) => [device.id, device.tag])), [job.devices])
  const rowOf = (id: string) => {
    const deviceId = owners.get(id)
    const network = job.networks.find((each) => each.id === id)
    return { id, deviceId, name: (deviceId && tags.get(deviceId)) ?? network?.name ?? '' }
  }
  /** The rows that a finding is about, each device once. */
  const rowsOf = (finding: Finding) => {
    const rows = [finding.subject, ...finding.others].map(({ id }) => rowOf(id)).filter(({ name }) => name !== '')
    return rows.filter(({ name }, k) => rows.findIndex((other) => other.name === name) === k)
  }
  const matters = useMemo(() => byMatter(findings), [findings])
  const acceptedMatters = useMemo(() => {
    const acceptanceOf = new Map(accepted.map(({ finding, acceptance }) => [finding, acceptance]))
    return byMatter(accepted.map(({ finding }) => finding)).flatMap((matter) => {
      const all = matter.flatMap((finding) => acceptanceOf.get(finding) ?? [])
      const [acceptance] = all
      return acceptance ? [{ finding: matter[0], acceptance, all }] : []
    })
  }, [accepted])
  const groups = (Object.keys(severities) as Severity[]).map((severity) => ({
    severity,
    list: matters.filter(([finding]) => finding.severity === severity),
  }))
  return (
    <section className="col-span-full [grid-row:1_/_-1] min-w-0 overflow-auto px-5 pb-5" aria-label="Findings">
      <div className="sticky top-0 z-6 flex min-h-13 flex-wrap items-center gap-0 bg-sheet pr-3.5">{head}</div>
      {findings.length === 0 && <p className="mt-4 text-ink-soft">Nothing in the plan speaks against it.</p>}
      {groups.map(({ severity, list }) =>
        list.length === 0 ? null : (
          <section key={severity} aria-label={severities[severity].words}>
            <h2
              className={cn(
                'mt-3.5 flex items-center gap-1.75 text-row font-firm',
                severity !== 'worth-knowing' && 'text-odds',
              )}
            >
              <Glyph state={severity === 'worth-knowing' ? 'in-hand' : 'at-odds'} size={15} />
              {severities[severity].words}
              <span className="note">{list.length}</span>
            </h2>
            <ul>
              {list.map((matter) => {
                const [finding] = matter
                return (
                  <li
                    className="grid grid-cols-[92px_1fr] gap-3 border-t border-rule py-2.5 text-row"
                    key={finding.rule + finding.subject.id}
                  >
                    <span className="font-heavy">
                      {rowsOf(finding).map(({ id, deviceId, name }) => (
                        <span key={id} className="block">
                          {deviceId ? (
                            <Button className="p-0 font-heavy" look="plain" onClick={() => onPick(deviceId)}>
                              {name}
                            </Button>
                          ) : (
                            name
                          )}
                        </span>
                      ))}
                    </span>
                    <div>
                      <b>{finding.title}</b>{' '}
                      <span className="font-typed font-medium text-ink-soft">{finding.found}</span>
                      <p>{finding.why}</p>
                      <div className="mt-1.5 flex min-w-0 flex-wrap items-center gap-2.5">
                        {finding.fixes.map((fix) => (
                          <Button
                            key={fix.label}
                            {...tip(fix.sideEffect)}
                            onClick={() => lineUp.attempt(lineUp.applyFix(fix))}
                          >
                            {fix.label}
                          </Button>
                        ))}
                        <Accept
                          finding={finding}
                          onAccept={(reason) => lineUp.attempt(lineUp.accept(matter, reason))}
                        />
                      </div>
                    </div>
                  </li>
                )
              })}
            </ul>
          </section>
        ),
      )}
      <AtPoints job={job} />
      {accepted.length > 0 && (
        <section aria-label="Accepted">
          <h2 className="mt-3.5 flex items-center gap-1.75 text-row font-firm">
            <Glyph state="parked" size={15} /> Let stand <span className="note">{acceptedMatters.length}</span>
          </h2>
          <ul>
            {acceptedMatters.map(({ finding, acceptance, all }) => (
              <li className="grid grid-cols-[92px_1fr] gap-3 border-t border-rule py-2.5 text-row" key={acceptance.id}>
                <span className="font-heavy">
                  {rowsOf(finding).map(({ id, name }) => (
                    <span key={id} className="block">
                      {name}
                    </span>
                  ))}
                </span>
                <div>
                  <b>{finding.title}</b> <span className="font-typed font-medium text-ink-soft">{finding.found}</span>
                  <p>
                    “{acceptance.reason}” {acceptance.who}, {format(acceptance.at, 'yyyy-MM-dd HH:mm')}
                  </p>
                  <Button look="plain" onClick={() => lineUp.attempt(lineUp.takeUpAgain(finding, all))}>
                    Take it up again
                  </Button>
                </div>
              </li>
            ))}
          </ul>
        </section>
      )}
    </section>
  )
}
