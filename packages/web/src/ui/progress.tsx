import { Progress as Radix } from 'radix-ui'

interface ProgressProps {
  readonly label: string
  readonly value: number
  readonly of: number
}

/** How far something has come that goes on by itself. */
export function Progress({ label, value, of }: ProgressProps) {
  const share = of > 0 ? Math.min(1, value / of) : 0
  return (
    <Radix.Root
      aria-label={label}
      value={Math.min(value, of)}
      max={Math.max(of, 1)}
      className="h-2 w-full max-w-105 overflow-hidden rounded-sm border border-rule-strong"
    >
      <Radix.Indicator asChild>
        <svg className="block size-full" viewBox="0 0 100 8" preserveAspectRatio="none" aria-hidden>
          <rect width={100 * share} height="8" className="fill-act" />
        </svg>
      </Radix.Indicator>
    </Radix.Root>
  )
}
