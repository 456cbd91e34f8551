/** An address with its network part soft and its host part strong. */
export function Address({ text }: { text: string }) {
  const cut = text.lastIndexOf('.') + 1
  return (
    <span className="font-typed text-typed font-medium tracking-[-0.05em]">
      <i className="font-read text-ink-soft group-data-[odds=true]/odds:text-odds">{text.slice(0, cut)}</i>
      {text.slice(cut)}
    </span>
  )
}
