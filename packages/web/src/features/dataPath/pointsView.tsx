import { blankPoint, deviceOf, type Handshake, type Job, type Point } from '@calm/core/job'
import { checkPoints, type PointFinding } from '@calm/core/points'
import { ClipboardPaste, Plus } from 'lucide-react'
import { useDeferredValue, useMemo, useState } from 'react'
import { newId } from '../../api'
import type { JobEdit } from '../../edit'
import { usePageKeys } from '../../shell'
import { Button, cn, Glyph, Toggles } from '../../ui'
import { PastePoints } from './pastePoints'
import { PointTable } from './pointTable'
import { UsualPoint, usualOf } from './usualPoint'

interface PointsViewProps {
  readonly job: Job
  readonly handshake: Handshake
  readonly edit: JobEdit
  readonly chosen: Point | undefined
  readonly onWhy: (pointId: string) => void
}

/** The points of a device as a table: edited in place, pasted in, each with the address that is asked and what is wrong. */
export function PointsView({ job, handshake, edit, chosen, onWhy }: PointsViewProps) {
  const [pasting, setPasting] = useState(false)
  const [choosing, setUsual] = useState(false)
  const controller = deviceOf(job, handshake.controllerId)
  const tool = controller?.toolAddsOne ? '1' : '0'
  // What is edited is drawn first; what is found about it follows.
  const [settledJob, settled] = [useDeferredValue(job), useDeferredValue(handshake)]
  const { findings, looked, unplaced } = useMemo(() => checkPoints(settledJob, settled), [settledJob, settled])
  const byPoint = useMemo(() => marked(findings), [findings])
  const add = () => {
    const tag = deviceOf(job, handshake.deviceId)?.tag ?? ''
    const position = Math.max(-1, ...handshake.points.map((point) => point.position)) + 1
    const fields = { ...blankPoint(tag), position, handshakeId: handshake.id, asked: false }
    edit.attempt(edit.change('Point added.', [{ op: 'add', table: 'point', id: newId(), fields }]))
  }
  const usual = usualOf(settledJob, settled).length
  usePageKeys({ P: () => setPasting(true), A: add })
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 pb-2">
        <Button look="act" onClick={() => setPasting(true)}>
          <ClipboardPaste size={15} aria-hidden /> Paste points
        </Button>
        <Button onClick={add}>
          <Plus size={15} aria-hidden /> Add a point
        </Button>
        {usual > 0 && <Button onClick={() => setUsual(true)}>Usual for its kind: {usual}</Button>}
        <Toggles
          label="The programming tool of the controller"
          size="small"
          value={tool}
          items={[
            { value: '0', say: 'Tool counts from 0', tip: 'It takes the address as it stands in the frame' },
            { value: '1', say: 'Tool adds one', tip: 'It is told one more than the address in the frame' },
          ]}
          onChange={(value) =>
            controller &&
            edit.attempt(
              edit.set(`How the tool of ${controller.tag} counts changed.`, 'device', controller, {
                toolAddsOne: value === '1',
              }),
            )
          }
        />
        <p className="note" role="status">
          {handshake.points.length} point{handshake.points.length === 1 ? '' : 's'}, {looked} with a place looked at
          {unplaced > 0 && `, ${unplaced} without one`}:{' '}
          {findings.length === 0 ? 'nothing found' : `${findings.length} found`}.
        </p>
      </div>
      <PointTable
        job={job}
        handshake={handshake}
        edit={edit}
        found={byPoint}
        chosenId={chosen?.id}
        onWhy={onWhy}
        toolAdds={tool === '1' ? 1 : 0}
      />
      {findings.length > 0 && (
        <ul className="mt-3 grid max-h-48 gap-1 overflow-auto" aria-label="Found at the points">
          {findings.slice(0, 60).map((finding) => (
            <li key={`${finding.rule} ${finding.pointId}`} className="grid grid-cols-[18px_1fr] gap-1.5">
              <Glyph state={finding.severity === 'will-not-work' ? 'at-odds' : 'in-hand'} size={14} />
              <span className={cn(finding.severity === 'will-not-work' && 'text-odds')}>
                <b className="font-heavy">{finding.title}.</b> {finding.say}
              </span>
            </li>
          ))}
          {findings.length > 60 && <li className="note">and {findings.length - 60} more</li>}
        </ul>
      )}
      {choosing && <UsualPoint job={job} handshake={handshake} edit={edit} onClose={() => setUsual(false)} />}
      {pasting && <PastePoints job={job} handshake={handshake} edit={edit} onClose={() => setPasting(false)} />}
    </>
  )
}

/** The finding that marks each point: its own before one of another point with it. */
function marked(findings: readonly PointFinding[]): ReadonlyMap<string, PointFinding> {
  const map = new Map<string, PointFinding>()
  for (const finding of findings) if (!map.has(finding.pointId)) map.set(finding.pointId, finding)
  for (const finding of findings)
    if (finding.withId !== undefined && !map.has(finding.withId)) map.set(finding.withId, finding)
  return map
}
