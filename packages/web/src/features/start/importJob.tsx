import { JOB_FILE_LIMIT } from '@calm/contract/limits'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { api } from '@calm/contract/api'
import { call, ProblemError } from '../../api'
import { FilePicker, Problems } from '../../ui'

/** Takes a job file in. A bad file changes nothing, and every problem is listed with its path. */
export function ImportJob() {
  const [fileName, setFileName] = useState('')
  const [trouble, setTrouble] = useState<unknown>(undefined)
  const navigate = useNavigate()
  const take = async (file: File) => {
    setFileName(file.name)
    setTrouble(undefined)
    try {
      if (file.size > JOB_FILE_LIMIT) {
        const size = `${(file.size / 1024 / 1024).toFixed(1)} MB`
        throw new ProblemError(413, [
          { what: `The file is too large: ${size}.`, where: file.name, expected: 'at most 20 MB', found: size },
        ])
      }
      const job = await call(api.importJob, {}, await file.text())
      await navigate(`/jobs/${job.id}/line-up`)
    } catch (reason) {
      setTrouble(reason)
    }
  }
  return (
    <section className="grid content-start gap-2.5">
      <h2>Take in a job file</h2>
      <p className="note">
        A file that this program wrote (.job.json), at most 20 MB. It becomes a new job; nothing that is here changes.
      </p>
      <FilePicker size="tall" label="Job file" accept=".json,application/json" onFile={(file) => void take(file)}>
        Choose a file
      </FilePicker>
      {fileName !== '' && trouble !== undefined && (
        <p className="note">{fileName} was not taken in. Nothing has changed.</p>
      )}
      <Problems reason={trouble} />
    </section>
  )
}
