/** A lock-off tag: for people and machinery only, never for faults, and never to be closed. */
export function Caution({ children }: { children: React.ReactNode }) {
  return (
    <div className="tag" role="note">
      <svg className="tag-end" viewBox="0 0 50 84" preserveAspectRatio="none" aria-hidden="true">
        <path d="M17 1H49V83H17L1 67V17Z" />
      </svg>
      <span className="tag-hole" aria-hidden="true" />
      <div>
        <p>{children}</p>
      </div>
    </div>
  )
}
