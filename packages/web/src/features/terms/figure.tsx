/** One figure of a panel with its name, as a row of a list of definitions. */
export function Figure({ name, value }: { readonly name: string; readonly value: string }) {
  return (
    <>
      <dt className="text-ink-soft">{name}</dt>
      <dd>{value}</dd>
    </>
  )
}

/** As exact as anybody can use: three digits. @example roundedMs(1234.5) // '1.23 s' */
export function roundedMs(milliseconds: number): string {
  const three = (value: number) => String(Number(value.toPrecision(3)))
  return milliseconds >= 1000 ? `${three(milliseconds / 1000)} s` : `${three(milliseconds)} ms`
}
