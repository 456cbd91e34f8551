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
      <p className="frame">asked {reading.requestHex}</p>
      <p className="frame">answer {reading.responseHex || 'none'}</p>
    </div>
  )
}
