import { RadioGroup } from 'radix-ui'
import { useId } from 'react'
import { cn } from './cn'
import { fieldLabel } from './input'

interface RadiosProps<Value extends string> {
  readonly label: string
  readonly hideLabel?: boolean
  readonly value: Value | ''
  readonly choices: readonly { readonly value: Value; readonly label: string; readonly say?: string }[]
  readonly large?: boolean
  readonly className?: string
  readonly onChange: (value: Value) => void
}

/** A choice of which each alternative has its consequences told beside it. */
export function Radios<Value extends string>(props: RadiosProps<Value>) {
  const { label, hideLabel, value, choices, large = false, className, onChange } = props
  const id = useId()
  return (
    <div className={className}>
      <p id={id} className={hideLabel ? 'sr-only' : fieldLabel}>
        {label}
      </p>
      <RadioGroup.Root
        className="grid gap-2.5"
        aria-labelledby={id}
        value={value}
        onValueChange={(next) => onChange(next as Value)}
      >
        {choices.map((choice, k) => (
          <div key={choice.value} className="flex items-start gap-2.5">
            <RadioGroup.Item
              id={`${id}-${k}`}
              value={choice.value}
              aria-describedby={choice.say === undefined ? undefined : `${id}-${k}-say`}
              className="mt-0.5 grid size-4.5 flex-none place-items-center rounded-full border-[1.5px] border-ink-soft bg-well"
            >
              <RadioGroup.Indicator className="size-2.5 rounded-full bg-act" />
            </RadioGroup.Item>
            <div>
              <label htmlFor={`${id}-${k}`} className={cn(large && 'text-lead font-firm')}>
                {choice.label}
              </label>
              {choice.say !== undefined && (
                <p id={`${id}-${k}-say`} className="text-note text-ink-soft">
                  {choice.say}
                </p>
              )}
            </div>
          </div>
        ))}
      </RadioGroup.Root>
    </div>
  )
}
