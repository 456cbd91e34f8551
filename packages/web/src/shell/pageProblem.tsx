import { Link, useRouteError } from 'react-router'
import { useState } from 'react'
import { api } from '@calm/contract/api'
import { call, ProblemError } from '../api'
import { Field, Problems } from '../ui'

/** In place of a page that cannot be shown: why, and where to go. */
export function PageProblemText({ reason }: { reason: unknown }) {
  const needsPasscode = reason instanceof ProblemError && reason.status === 401
  return (
    <main className="p-6 grid gap-4" style={{ maxWidth: 640 }}>
      <h1>{needsPasscode ? 'Passcode' : 'This cannot be shown'}</h1>
      {needsPasscode ? <SignIn /> : <Problems reason={reason} />}
      <Link to="/">All jobs</Link>
    </main>
  )
}

/** What is shown when our own code broke, so that it can be told on. */
export function PageProblem() {
  const reason = useRouteError()
  if (reason instanceof ProblemError) return <PageProblemText reason={reason} />
  return (
    <main className="p-6 grid gap-3">
      <h1>This page stopped</h1>
      <p>{reason instanceof Error ? reason.message : String(reason)}</p>
      <p className="note">Nothing that was saved is lost. Load the page again.</p>
      <Link to="/">All jobs</Link>
    </main>
  )
}

function SignIn() {
  const [name, setName] = useState('')
  const [passcode, setPasscode] = useState('')
  const [trouble, setTrouble] = useState<unknown>(undefined)
  const send = async (event: React.FormEvent) => {
    event.preventDefault()
    try {
      await call(api.logIn, {}, { name, passcode })
      location.reload()
    } catch (reason) {
      setTrouble(reason)
    }
  }
  return (
    <form className="grid gap-3" onSubmit={(event) => void send(event)}>
      <Field label="Your name, as it is to stand beside what you record" value={name} onChange={setName} />
      <Field label="Passcode" type="password" value={passcode} onChange={setPasscode} />
      <Problems reason={trouble} />
      <button className="act tall" type="submit">
        Come in
      </button>
    </form>
  )
}
