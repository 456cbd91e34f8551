import { cn } from './cn'

/** A lock-off tag: for people and machinery only, never for faults, and never to be closed. The only yellow in the sheet. */
export function Caution({ large = false, children }: { large?: boolean; children: React.ReactNode }) {
  return (
    <div className={cn('relative my-1.5 pl-12', large && 'max-w-155')} role="note">
      <svg
        className="absolute top-0 left-0 h-full w-12.5 overflow-visible fill-caution stroke-caution-edge stroke-2"
        viewBox="0 0 50 84"
        preserveAspectRatio="none"
        aria-hidden="true"
      >
        <path className="[vector-effect:non-scaling-stroke]" d="M17 1H49V83H17L1 67V17Z" />
      </svg>
      <span
        className="absolute top-1/2 left-4 -mt-2 size-4 rounded-full border-3 border-caution-ink bg-sheet"
        aria-hidden="true"
      />
      <div className="flex min-h-15.5 flex-col justify-center border-2 border-l-0 border-caution-edge bg-caution-wash px-3.5 py-2">
        <p className={cn('leading-snug', large ? 'text-lead' : 'text-row')}>{children}</p>
      </div>
    </div>
  )
}
