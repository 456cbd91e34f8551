import type { LiveReading } from '@calm/contract'

/** The very bytes of the last request and its answer. */
export function Frames({ reading, tag }: { reading: LiveReading | undefined; tag: string }) {
  if (!reading || reading.requestHex === '') return null
  return (
    <div>
      <p className="note">
        {tag} at {reading.asked}
        {reading.mode === 'bench' ? `, served on ${reading.servedAt}` : ''}
      </p>
      <Bytes what="asked" hex={reading.requestHex} />
      <Bytes what="answer" hex={reading.responseHex} />
    </div>
  )
}

/** Bytes in hexadecimal; a line ends between two of them, never within one. */
function Bytes({ what, hex }: { what: string; hex: string }) {
  const bytes = hex.replace(/\s/g, '').match(/.{1,2}/g) ?? []
  return (
    <p className="grid grid-cols-[48px_1fr] font-typed note tracking-[-0.06em]">
      <span>{what}</span>
      <span>{bytes.join(' ') || 'none'}</span>
    </p>
  )
}
