import type { Job } from '@calm/core/job'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { api } from '@calm/contract/api'
import { call } from '../../api'
import { Choice, Field, Problems } from '../../ui'

export function BeginJob() {
  const [name, setName] = useState('')
  const [place, setPlace] = useState('')
  const [mode, setMode] = useState<Job['mode']>('bench')
  const [trouble, setTrouble] = useState<unknown>(undefined)
  const navigate = useNavigate()
  const begin = async (event: React.FormEvent) => {
    event.preventDefault()
    try {
      const job = await call(api.beginJob, {}, { name, place, mode })
      await navigate(`/jobs/${job.id}/line-up`)
    } catch (reason) {
      setTrouble(reason)
    }
  }
  return (
    <form onSubmit={(event) => void begin(event)}>
      <h2>Begin an empty job</h2>
      <Field label="Name" value={name} onChange={setName} placeholder="Plant or site" />
      <Field label="Place" value={place} onChange={setPlace} placeholder="Panel, room or area" />
      <Choice
        label="Against"
        value={mode}
        choices={[
          { value: 'bench', label: 'Bench: stand-ins on this laptop' },
          { value: 'plant', label: 'Plant: real equipment' },
        ]}
        onChange={(next) => setMode(next as Job['mode'])}
      />
      <Problems reason={trouble} />
      <button className="act tall" type="submit">
        Begin
      </button>
    </form>
  )
}
