import { parseMask } from '@calm/core/address'
import type { Change } from '@calm/core/changes'
import {
  deviceOf,
  isFromLineUp,
  lineOf,
  reachedAt,
  sayStanding,
  serialLineOf,
  standingWords,
  type Handshake,
  type Job,
  type TermStanding,
} from '@calm/core/job'
import { nodeFamily, parseNode } from '@calm/core/bus'
import type { Notation } from '@calm/core/modbus'
import {
  exchanges,
  otherEnd,
  termDefinition,
  type ClaspRow,
  type End,
  type EndReading,
  type Exchange,
  type TermEntry,
  type TermId,
  type TermPlace,
} from '@calm/core/terms'
import { newId, ProblemError } from '../../api'
import { useEdit, useUndoKeys } from '../../edit'

export interface TermText {
  readonly text: string
  readonly notation: Notation | null
  readonly origin: string
  /** Where else it stands; left out where that does not change. */
  readonly places?: readonly TermPlace[]
}

/** A term of one end, changed: in the handshake, or in the line-up where the line-up holds it. */
export function termChange(
  job: Job,
  handshake: Handshake,
  id: TermId,
  end: End,
  next: TermText,
  newRowId: () => string = newId,
): Change | undefined {
  if (isFromLineUp(id, end)) return lineUpChange(job, handshake, id, end, next.text)
  const row = handshake.terms.find((term) => term.termId === id && term.end === end)
  if (row) return { op: 'set', table: 'term', id: row.id, version: row.version, fields: { ...next } }
  const fields = { termId: id, end, ...next, handshakeId: handshake.id }
  return { op: 'add', table: 'term', id: newRowId(), fields }
}

function lineUpChange(job: Job, handshake: Handshake, id: TermId, end: End, text: string): Change | undefined {
  const device = deviceOf(job, end === 'controller' ? handshake.controllerId : handshake.deviceId)
  const port = reachedAt(job, device)
  if (!device) return undefined
  if (id === 'line-settings') {
    const line = serialLineOf(job, handshake)
    return line && { op: 'set', table: 'line', id: line.id, version: line.version, fields: { settings: text } }
  }
  if (id === 'unit-id') {
    const fields = { unitId: text === '' ? null : Number(text) }
    return { op: 'set', table: 'device', id: device.id, version: device.version, fields }
  }
  if (id === 'node') {
    const line = lineOf(job, handshake)
    const node = device.nodes.find(({ lineId }) => lineId === line?.id)
    const read = line && parseNode(text, nodeFamily(line.family))
    const fields = { node: read?.ok ? read.value : null }
    return node && { op: 'set', table: 'node', id: node.id, version: node.version, fields }
  }
  const fields = portFields(id, text)
  return port && fields && { op: 'set', table: 'port', id: port.id, version: port.version, fields }
}

function portFields(id: TermId, text: string): Readonly<Record<string, unknown>> | undefined {
  switch (id) {
    case 'address':
      return { address: text === '' ? null : text }
    case 'mask': {
      const mask = parseMask(text)
      return { prefix: text !== '' && mask.ok ? mask.value : null }
    }
    case 'port':
      return { tcpPort: Number(text) }
    default:
      return undefined
  }
}

/** Where a term stands, until somebody says better. */
export const originOf = (entry: TermEntry | undefined, end: End, tag: string): string =>
  entry?.origin ?? (end === 'controller' ? `program of ${tag}` : 'its manual')

export const textOf = (reading: EndReading): string => (reading.state === 'blank' ? '' : reading.entry.text)

/** The terms that one end leaves open although the other says them; what the line-up holds is changed there. */
export const openAt = (rows: readonly ClaspRow[], end: End): readonly ClaspRow[] =>
  rows.filter(
    ({ id, ends }) => ends[end].state === 'blank' && ends[otherEnd[end]].state !== 'blank' && !isFromLineUp(id, end),
  )

/** Terms as they are edited: at once on the screen, and with their way back. */
export function useTermEdit(job: Job, handshake: Handshake) {
  const edits = useEdit(job)
  useUndoKeys(
    () => edits.attempt(edits.undo()),
    () => edits.attempt(edits.redo()),
  )
  const edit = async (id: TermId, end: End, next: TermText) => {
    const change = termChange(edits.now(), handshake, id, end, next)
    if (change) await edits.change(`${termDefinition(id).name} changed.`, [change])
  }
  /** Everything that one end leaves open and the other says, in one step. */
  const takeOver = (rows: readonly ClaspRow[], end: End, from: string) => {
    const changes = rows.flatMap((row) => {
      const said = row.ends[otherEnd[end]]
      if (said.state === 'blank') return []
      const next = { text: said.entry.text, notation: said.entry.notation ?? null, origin: `taken over from ${from}` }
      return termChange(edits.now(), handshake, row.id, end, next) ?? []
    })
    edits.attempt(edits.change(`${changes.length} terms taken over from ${from}.`, changes))
  }
  /** One value at one end as it was seen: found, entered or in force. */
  const say = (id: TermId, end: End, standing: TermStanding, entry: Pick<TermEntry, 'text' | 'notation'>) => {
    const said = { row: { id }, end, standing, entry, how: 'seen', origin: '' } as const
    const what = `${termDefinition(id).name} ${standingWords[standing]}.`
    return edits.change(what, [sayStanding(edits.now(), handshake, said, newId)])
  }
  /** How the two ends speak. */
  const speak = (exchange: Exchange) => {
    const row = edits.now().handshakes.find((each) => each.id === handshake.id) ?? handshake
    edits.attempt(edits.set(`Exchange: ${exchanges[exchange].name}.`, 'handshake', row, { exchange }))
  }
  return { edit, takeOver, say, speak, problem: edits.problem, forget: edits.forget }
}

export type TermEdit = ReturnType<typeof useTermEdit>

/** Why it was not saved. When somebody else saved meanwhile, what stands there now is told; setting again replaces it. */
export function troubleFrom(reason: unknown): {
  what: string
  expected: string
  offers?: readonly { label: string; value: string }[]
} {
  if (!(reason instanceof ProblemError))
    return { what: 'The server does not answer. What you typed stays here.', expected: '' }
  if (reason.status === 409) {
    const now = (reason.current as { text?: string } | undefined)?.text ?? 'something else'
    return {
      what: `Somebody else saved this meanwhile: it now says ${now}. Set again to put yours in its place.`,
      expected: '',
    }
  }
  return reason.problems[0] ?? { what: 'It could not be saved.', expected: '' }
}
