import type { Problem } from '@calm/contract'
import { useEffect, useRef, useState } from 'react'
import { useForm, type DefaultValues, type FieldErrors, type Path, type PathValue } from 'react-hook-form'
import { ProblemError } from '../api'
import type { Trouble } from '../ui'

type FormValues = Record<string, unknown>

interface Options<Form extends FormValues> {
  readonly start: Form
  /** What is wrong with what was typed, by the contract's own schema; see `against` and `againstLater`. */
  readonly check: (form: Form) => readonly Problem[] | Promise<readonly Problem[]>
  /** Sends what was checked; `reset` begins the form anew, for the next one. */
  readonly send: (form: Form, reset: (next?: Form) => void) => Promise<unknown>
  /** Fields whose blanks at the ends belong to them: a passcode. All others go without. */
  readonly asTyped?: readonly (keyof Form & string)[]
  /** Fields that are judged while they are typed: a register, a number. Blank, they wait for the others; so do all with a check that has to be loaded. */
  readonly atOnce?: readonly (keyof Form & string)[]
}

/** What a field of the kit needs to be one of this form. */
interface Bound<Value> {
  readonly value: Value
  readonly trouble: Trouble | undefined
  readonly onChange: (value: Value) => void
}

export interface SchemaForm<Form extends FormValues> {
  readonly values: Form
  readonly bind: <Name extends keyof Form & string>(name: Name) => Bound<Form[Name]>
  readonly set: (fields: Partial<Form>) => void
  /** Begins anew, with what was there at first or with these. */
  readonly reset: (next?: Form) => void
  readonly onSubmit: (event: React.FormEvent) => void
  /** Sends it as a button that is not the one of the form. */
  readonly sendNow: () => void
  readonly busy: boolean
  /** What went wrong and belongs to no field. */
  readonly trouble: unknown
}

/** Held beside the error, because the library knows only a message. */
interface SchemaError {
  readonly type: 'schema'
  readonly problem: Problem
}

/**
 * A form that is checked by the contract's schema before anything is sent. What is wrong stands at its field, also what
 * only the server can refuse; what was typed stays in any case.
 */
export function useSchemaForm<Form extends FormValues>({
  start,
  check,
  send,
  asTyped = [],
  atOnce = [],
}: Options<Form>): SchemaForm<Form> {
  const [trouble, setTrouble] = useState<unknown>(undefined)
  /** The form that was refused a moment ago: its first wrong field gets the focus once it is drawn as such. */
  const refused = useRef<HTMLElement | undefined>(undefined)
  useEffect(() => {
    const wrong = refused.current?.querySelector<HTMLElement>('[aria-invalid=true]')
    if (!wrong) return
    refused.current = undefined
    wrong.focus()
  })
  const form = useForm<Form>({
    defaultValues: start as DefaultValues<Form>,
    shouldFocusError: false,
    resolver: async (typed) => {
      const values = trimmed(typed, asTyped)
      const problems = await check(values)
      if (problems.length === 0) return { values, errors: {} }
      return { values: {}, errors: errorsOf(problems, values) }
    },
  })
  const values = form.watch()
  const errors = form.formState.errors as Readonly<Record<string, SchemaError | undefined>>
  const put = <Name extends keyof Form & string>(name: Name, value: Form[Name]) =>
    form.setValue(name as unknown as Path<Form>, value as PathValue<Form, Path<Form>>, {
      shouldDirty: true,
      // A field that was found wrong is looked at again while it is put right.
      shouldValidate: errors[name] !== undefined,
    })
  const reset = (next?: Form) => {
    setTrouble(undefined)
    form.reset((next ?? start) as DefaultValues<Form>)
  }
  const troubleNow = (name: keyof Form & string) => {
    if (!atOnce.includes(name) || values[name] === '') return undefined
    const problems = check(trimmed(values, asTyped))
    return problems instanceof Promise ? undefined : problems.find(({ where }) => where === name)
  }
  const run = form.handleSubmit(
    async (checked) => {
      setTrouble(undefined)
      try {
        await send(checked, reset)
      } catch (reason) {
        if (reason instanceof ProblemError && reason.problems.length > 0) {
          const atFields = reason.problems.filter(({ where }) => where in checked)
          for (const problem of atFields)
            form.setError(problem.where as Path<Form>, { type: 'schema', problem } as { type: 'schema' })
          if (atFields.length === reason.problems.length) return
        }
        setTrouble(reason)
      }
    },
    (found) => {
      // What belongs to no field of the form is told all the same.
      const others = (found as unknown as Readonly<Record<string, SchemaError | undefined>>)['root']?.problem
      setTrouble(others && new ProblemError(422, [others]))
    },
  )
  return {
    values,
    bind: (name) => ({
      value: values[name],
      trouble: errors[name]?.problem ?? troubleNow(name),
      onChange: (value) => put(name, value),
    }),
    set: (fields) => {
      for (const name of Object.keys(fields) as (keyof Form & string)[]) put(name, fields[name] as Form[typeof name])
    },
    reset,
    onSubmit: (event) => {
      const element = event.currentTarget instanceof HTMLElement ? event.currentTarget : undefined
      refused.current = element
      void run(event)
    },
    sendNow: () => void run(),
    busy: form.formState.isSubmitting,
    trouble,
  }
}

function trimmed<Form extends FormValues>(values: Form, asTyped: readonly string[]): Form {
  const pairs = Object.entries(values).map(([name, value]) => [
    name,
    typeof value === 'string' && !asTyped.includes(name) ? value.trim() : value,
  ])
  return Object.fromEntries(pairs) as Form
}

function errorsOf<Form extends FormValues>(problems: readonly Problem[], values: Form): FieldErrors<Form> {
  const errors: Record<string, SchemaError> = {}
  for (const problem of problems) {
    const name = problem.where in values ? problem.where : 'root'
    errors[name] ??= { type: 'schema', problem }
  }
  return errors as unknown as FieldErrors<Form>
}
