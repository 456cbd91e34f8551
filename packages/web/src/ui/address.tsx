/** An address with its network part soft and its host part strong. */
export function Address({ text }: { text: string }) {
  const cut = text.lastIndexOf('.') + 1
  return (
    <span className="ip">
      <i>{text.slice(0, cut)}</i>
      {text.slice(cut)}
    </span>
  )
}
