import type { Handshake, Job } from '@calm/core/job'
import { useNavigate, useParams } from 'react-router'
import { usePageKeys } from '../../shell'
import { Choice } from '../../ui'

/** The handshake in the address, or the first one. */
export function useChosenHandshake(job: Job): Handshake | undefined {
  const { handshakeId } = useParams()
  return job.handshakes.find((each) => each.id === handshakeId) ?? job.handshakes[0]
}

/** Which handshake is looked at; J and K go to the next and the one before, O to the next that is at odds. */
export function HandshakePicker({
  job,
  stage,
  chosen,
  isAtOdds,
}: {
  job: Job
  stage: 'terms' | 'data-path' | 'proof'
  chosen: Handshake
  isAtOdds: (handshake: Handshake) => boolean
}) {
  const navigate = useNavigate()
  const go = (id: string | undefined) => id && void navigate(`/jobs/${job.id}/${stage}/${id}`)
  const index = job.handshakes.indexOf(chosen)
  const around = (by: number) => job.handshakes[(index + by + job.handshakes.length) % job.handshakes.length]
  usePageKeys({
    J: () => go(around(1)?.id),
    K: () => go(around(-1)?.id),
    O: () => go([...job.handshakes.slice(index + 1), ...job.handshakes.slice(0, index)].find(isAtOdds)?.id),
    F: () => document.querySelector<HTMLElement>('[data-fix]')?.focus(),
  })
  return (
    <Choice
      label={`Handshake ${index + 1} of ${job.handshakes.length}`}
      value={chosen.id}
      choices={job.handshakes.map((each) => ({
        value: each.id,
        label: `${each.name}${isAtOdds(each) ? ' (at odds)' : ''}`,
      }))}
      onChange={go}
    />
  )
}
