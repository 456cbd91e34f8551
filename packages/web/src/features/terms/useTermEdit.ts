import { parseMask } from '@calm/core/address'
import { deviceOf, isFromLineUp, reachedAt, type Handshake, type Job } from '@calm/core/job'
import type { End, TermId } from '@calm/core/terms'
import type { Notation } from '@calm/core/modbus'
import { useJobChange, type JobChange } from '../../api'

export interface TermText {
  readonly text: string
  readonly notation: Notation | null
  readonly origin: string
}

/** How a term of one end is changed: in the handshake, or in the line-up where the line-up holds it. */
export function termChange(
  job: Job,
  handshake: Handshake,
  id: TermId,
  end: End,
  next: TermText,
): JobChange | undefined {
  if (isFromLineUp(id, end)) return lineUpChange(job, handshake, id, end, next.text)
  const row = handshake.terms.find((term) => term.termId === id && term.end === end)
  return {
    method: 'PUT',
    path: `/handshakes/${handshake.id}/terms/${id}/${end}`,
    body: { ...next, version: row?.version ?? 0 },
    foresee: (now) => ({
      ...now,
      handshakes: now.handshakes.map((each) =>
        each.id !== handshake.id
          ? each
          : {
              ...each,
              terms: [
                ...each.terms.filter((term) => term.termId !== id || term.end !== end),
                { id: row?.id ?? '', version: (row?.version ?? 0) + 1, termId: id, end, ...next },
              ],
            },
      ),
    }),
  }
}

function lineUpChange(job: Job, handshake: Handshake, id: TermId, end: End, text: string): JobChange | undefined {
  const device = deviceOf(job, end === 'controller' ? handshake.controllerId : handshake.deviceId)
  const port = reachedAt(job, device)
  if (!device) return undefined
  if (id === 'unit-id') {
    return {
      method: 'PATCH',
      path: `/devices/${device.id}`,
      body: { unitId: text === '' ? null : Number(text), version: device.version },
    }
  }
  if (!port) return undefined
  const path = `/ports/${port.id}`
  const mask = parseMask(text)
  switch (id) {
    case 'address':
      return { method: 'PATCH', path, body: { address: text === '' ? null : text, version: port.version } }
    case 'mask':
      return {
        method: 'PATCH',
        path,
        body: { prefix: text !== '' && mask.ok ? mask.value : null, version: port.version },
      }
    case 'port':
      return { method: 'PATCH', path, body: { tcpPort: Number(text), version: port.version } }
    default:
      return undefined
  }
}

export function useTermEdit(job: Job, handshake: Handshake) {
  const { mutateAsync, error, reset } = useJobChange(job.id)
  const edit = async (id: TermId, end: End, next: TermText) => {
    const change = termChange(job, handshake, id, end, next)
    if (change) await mutateAsync(change)
  }
  return { edit, problem: error, forget: reset }
}

export type TermEdit = ReturnType<typeof useTermEdit>
