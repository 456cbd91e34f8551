import { Link, useRouteError } from 'react-router'
import { api } from '@calm/contract/api'
import { call, ProblemError } from '../api'
import { againstLater, useSchemaForm } from '../forms'
import { Field, Problems, Button } from '../ui'

/** In place of a page that cannot be shown: why, and where to go. */
export function PageProblemText({ reason }: { reason: unknown }) {
  const needsPasscode = reason instanceof ProblemError && reason.status === 401
  return (
    <main className="grid max-w-160 gap-4 p-6">
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
    <main className="grid gap-3 p-6">
      <h1>This page stopped</h1>
      <p>{reason instanceof Error ? reason.message : String(reason)}</p>
      <p className="note">Nothing that was saved is lost. Load the page again.</p>
      <Link to="/">All jobs</Link>
    </main>
  )
}

const checkSession = againstLater<{ name: string; passcode: string }>(
  async () => (await import('@calm/contract/bodies')).bodies.logIn,
)

function SignIn() {
  const form = useSchemaForm({
    start: { name: '', passcode: '' },
    check: checkSession,
    asTyped: ['passcode'],
    send: async (values) => {
      await call(api.logIn, {}, values)
      location.reload()
    },
  })
  return (
    <form className="grid gap-3" onSubmit={form.onSubmit} noValidate>
      <Field label="Your name, as it is to stand beside what you record" {...form.bind('name')} />
      <Field label="Passcode" type="password" {...form.bind('passcode')} />
      <Problems reason={form.trouble} />
      <Button look="act" size="tall" type="submit">
        Come in
      </Button>
    </form>
  )
}
