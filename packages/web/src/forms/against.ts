import { problemsOf, type Problem } from '@calm/contract'

/** What this package needs of a schema of the contract. */
interface Schema {
  readonly validate: (
    value: unknown,
    options: { readonly abortEarly: boolean; readonly convert: boolean },
  ) => { readonly error?: Parameters<typeof problemsOf>[0] | undefined }
}

/** Strictly, and everything at once: as the server will. */
const AS_THE_SERVER = { abortEarly: false, convert: false } as const

/** What a schema of the contract has against a value; nothing when it may be sent. */
export function problemsIn(schema: Schema | undefined, value: unknown): readonly Problem[] {
  if (!schema) return []
  const { error } = schema.validate(value, AS_THE_SERVER)
  return error ? problemsOf(error) : []
}

/** Checks a form as it will travel. */
export const against =
  <Form>(schema: Schema | undefined, fieldsOf: (form: Form) => unknown = (form) => form) =>
  (form: Form): readonly Problem[] =>
    problemsIn(schema, fieldsOf(form))

/** The same with a schema that is loaded when it is first needed: a page that is opened often need not wait for it. */
export const againstLater =
  <Form>(load: () => Promise<Schema | undefined>) =>
  async (form: Form): Promise<readonly Problem[]> =>
    problemsIn(await load(), form)

/** The same for a form that holds some fields of what travels; the others are filled in when it is sent. */
export const againstPart =
  <Form extends object>(schema: Schema | undefined) =>
  (form: Form): readonly Problem[] =>
    problemsIn(schema, form).filter(({ where }) => where in form)
