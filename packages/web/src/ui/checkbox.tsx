import { Check } from 'lucide-react'
import { Checkbox as Radix } from 'radix-ui'
import { useId } from 'react'
import { cn } from './cn'

interface CheckboxProps {
  readonly label: string
  /** What stands beside the box, where that is more than the label. */
  readonly children?: React.ReactNode
  readonly checked: boolean
  readonly disabled?: boolean
  readonly hideLabel?: boolean
  readonly className?: string
  readonly onChange: (checked: boolean) => void
}

/** A box to tick, with its words beside it. */
export function Checkbox({ label, children, checked, disabled, hideLabel, className, onChange }: CheckboxProps) {
  const id = useId()
  return (
    <span className={cn('inline-flex items-center gap-2 text-row', className)}>
      <Radix.Root
        id={id}
        checked={checked}
        disabled={disabled}
        aria-label={hideLabel ? label : undefined}
        className="grid size-4.5 flex-none place-items-center rounded-sm border-[1.5px] border-ink-soft bg-well disabled:opacity-45 data-[state=checked]:border-ink data-[state=checked]:bg-act data-[state=checked]:text-on-ink"
        onCheckedChange={(next) => onChange(next === true)}
      >
        <Radix.Indicator>
          <Check size={14} strokeWidth={3} aria-hidden />
        </Radix.Indicator>
      </Radix.Root>
      {!hideLabel && <label htmlFor={id}>{children ?? label}</label>}
    </span>
  )
}
