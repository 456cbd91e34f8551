import { beginHandshakeChanges, type Ends } from '@calm/core/changes'
import { deviceOf, isSerial, lineOf, reachedAt, type Device, type Job } from '@calm/core/job'
import { kindFacts } from '@calm/core/kind'
import type { Exchange } from '@calm/core/terms'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { newId } from '../../api'
import { useEdit } from '../../edit'

/** The devices of a job that ask others. */
export const controllersOf = (job: Job): readonly Device[] =>
  job.devices.filter((device) => kindFacts(device.kind, job.kinds).role === 'controller')

/** How a device speaks by where it sits: on a bus, else Modbus. It can be changed at the terms. */
function exchangeFor(job: Job, deviceId: string): Exchange {
  const line = lineOf(job, { deviceId })
  return line && !isSerial(line) && !reachedAt(job, deviceOf(job, deviceId)) ? 'bus' : 'modbus'
}

/** Said to the page of terms: this handshake was begun a moment ago, and its terms are typed next. */
export const BEGUN = 'begun'

/** Begins a handshake with what the line-up knows of it, and goes to its terms. */
export function useBeginHandshake(job: Job) {
  const edit = useEdit(job)
  const navigate = useNavigate()
  const [problem, setProblem] = useState<unknown>(undefined)
  const send = async (ends: Ends) => {
    const { id, name, changes } = beginHandshakeChanges(edit.now(), ends, newId, exchangeFor(edit.now(), ends.deviceId))
    await edit.change(`Handshake ${name} begun.`, changes)
    await navigate(`/jobs/${job.id}/terms/${id}`, { state: BEGUN })
  }
  const begin = (ends: Ends) => {
    setProblem(undefined)
    send(ends).catch(setProblem)
  }
  return { begin, problem }
}
