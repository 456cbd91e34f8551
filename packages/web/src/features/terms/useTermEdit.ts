import { parseMask } from '@calm/core/address'
import type { Change } from '@calm/core/changes'
import { deviceOf, isFromLineUp, reachedAt, type Handshake, type Job } from '@calm/core/job'
import type { Notation } from '@calm/core/modbus'
import { termDefinition, type End, type TermId } from '@calm/core/terms'
import { newId } from '../../api'
import { useEdit, useUndoKeys } from '../../edit'

export interface TermText {
  readonly text: string
  readonly notation: Notation | null
  readonly origin: string
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
  if (id === 'unit-id') {
    const fields = { unitId: text === '' ? null : Number(text) }
    return { op: 'set', table: 'device', id: device.id, version: device.version, fields }
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
  return { edit, problem: edits.problem, forget: edits.forget }
}

export type TermEdit = ReturnType<typeof useTermEdit>
