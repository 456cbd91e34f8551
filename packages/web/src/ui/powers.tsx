/** A text in which powers of ten are raised: `2.72 × 10^23`. */
export function Powers({ text }: { text: string }) {
  return (
    <>{text.split(/(\^-?\d+)/).map((part, k) => (part.startsWith('^') ? <sup key={k}>{part.slice(1)}</sup> : part))}</>
  )
}
