import { standingFor, type Handshake, type Job, type TermStanding } from '@calm/core/job'
import { termDefinition, termGroups, type Clasp, type TermContext } from '@calm/core/terms'
import { Fragment, useState } from 'react'
import { Button, cn, Glyph, Problems, tip } from '../../ui'
import { BeforeDownloadBox } from './beforeDownloadBox'
import { PasteFound } from './pasteFound'
import { ReadFound } from './readFound'
import { SeenCell, type EndProps } from './seenCell'
import { standingSays, tellSeen } from './standingMark'
import { openDefaultsOf, useStandings } from './useStandings'

const ENDS = ['controller', 'device'] as const
const COLUMNS: readonly TermStanding[] = ['found', 'entered', 'in-force']

/** Planned, as found, entered and in force, for each end: what the plan says against what is at work. */
export function ColumnsView({
  job,
  handshake,
  clasp,
  context,
}: {
  job: Job
  handshake: Handshake
  clasp: Clasp
  context: TermContext
}) {
  const standings = useStandings(job)
  const [pastes, setPastes] = useState(false)
  const [reads, setReads] = useState(false)
  const standing = standingFor(job, handshake)
  const atDefault = openDefaultsOf(job, handshake)
  const said = clasp.rows.filter(({ ends }) => ENDS.some((end) => ends[end].state !== 'blank'))
  return (
    <div className="min-h-0 flex-1 overflow-auto">
      <table className="w-full border-collapse text-row">
        <thead className="sticky top-0 z-10 bg-sheet text-left text-note">
          <tr>
            <th className="px-5" />
            {ENDS.map((end) => (
              <th
                key={end}
                colSpan={4}
                className={cn('px-2 pt-1 font-heavy', end === 'device' && 'border-l-2 border-rule-strong')}
              >
                {context.tags[end]}
              </th>
            ))}
          </tr>
          <tr className="border-b border-rule-strong">
            <th className="px-5 pb-1.5 font-read text-ink-soft">Term</th>
            {ENDS.map((end) => (
              <Fragment key={end}>
                <th
                  className={cn(
                    'px-2 pb-2 align-middle font-read text-ink-soft',
                    end === 'device' && 'border-l-2 border-rule-strong',
                  )}
                >
                  Planned
                </th>
                {COLUMNS.map((column) => (
                  <th key={column} className="px-1 pb-2 align-middle font-read text-ink-soft">
                    <Button
                      look="plain"
                      className="h-auto text-note"
                      aria-label={`${heads[column]}: all of ${context.tags[end]} as planned`}
                      onClick={() => standings.sayAll([handshake], end, column)}
                    >
                      {heads[column]}
                    </Button>
                  </th>
                ))}
              </Fragment>
            ))}
          </tr>
        </thead>
        <tbody>
          {said.map((row, k) => (
            <tr
              key={row.id}
              data-columns-row={row.id}
              className={cn('border-b border-rule', said[k - 1]?.group !== row.group && 'border-t-rule-strong')}
            >
              <th
                scope="row"
                className="px-5 py-0.5 text-left font-read whitespace-nowrap"
                {...tip(termDefinition(row.id).explain)}
              >
                {said[k - 1]?.group !== row.group && (
                  <span className="block text-note text-ink-soft">{termGroups[row.group].name}</span>
                )}
                {row.name}
              </th>
              {ENDS.map((end) => (
                <EndCells
                  key={end}
                  handshake={handshake}
                  row={row}
                  end={end}
                  tag={context.tags[end]}
                  standing={standing.get(row.id)?.[end]}
                  standings={standings}
                  context={context}
                />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <Button look="plain" className="mx-5 mt-2 text-note" onClick={() => setPastes(true)}>
        Paste what a menu or a page shows
      </Button>
      <Button look="plain" className="mt-2 text-note" onClick={() => setReads(true)}>
        Read what the device shows
      </Button>
      {reads && (
        <ReadFound job={job} handshake={handshake} clasp={clasp} context={context} onClose={() => setReads(false)} />
      )}
      {pastes && (
        <PasteFound job={job} handshake={handshake} clasp={clasp} context={context} onClose={() => setPastes(false)} />
      )}
      {atDefault.length > 0 && (
        <Button look="plain" className="mx-5 mt-2 text-note" onClick={() => standings.leftAtDefault([handshake])}>
          {context.tags.device}: {atDefault.length} left at default
        </Button>
      )}
      <p className="px-5 py-2 note">
        Arrows go from cell to cell. Enter writes what was seen, = says as planned. A head says it of the whole column.
      </p>
      <BeforeDownloadBox job={job} handshake={handshake} />
      <div className="px-5">
        <Problems reason={standings.problem} />
      </div>
    </div>
  )
}

const heads: Readonly<Record<TermStanding, string>> = { found: 'As found', entered: 'Entered', 'in-force': 'In force' }

function EndCells(props: EndProps) {
  const { row, end, standing } = props
  const reading = row.ends[end]
  const derived = reading.state === 'read' && reading.derived
  const mark = standing && !derived ? standingSays[standing.state].mark : undefined
  return (
    <>
      <td className={cn('px-2 font-typed whitespace-nowrap', end === 'device' && 'border-l-2 border-rule-strong')}>
        <span className="flex items-center gap-1.5">
          {mark && mark !== 'not-started' && (
            <span
              data-standing={standing?.state}
              role="img"
              aria-label={standing && standingSays[standing.state].say}
              {...tip(standing ? tellSeen(standing) : '')}
            >
              <Glyph state={mark} size={13} />
            </span>
          )}
          {reading.state === 'blank' ? (
            <span className="font-text text-ink-soft">not known</span>
          ) : reading.state === 'read' ? (
            reading.shown
          ) : (
            reading.entry.text
          )}
        </span>
      </td>
      {COLUMNS.map((column) => (
        <td key={column} className="p-0">
          {derived || reading.state === 'blank' ? null : <SeenCell {...props} column={column} />}
        </td>
      ))}
    </>
  )
}
