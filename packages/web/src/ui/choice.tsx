import { getNonce } from 'get-nonce'
import { Check, ChevronDown } from 'lucide-react'
import { Select } from 'radix-ui'
import { useId } from 'react'
import { cn } from './cn'
import type { Trouble } from './field'
import { fieldLabel, input } from './input'
import { RefusalNote } from './refusalNote'

interface ChoiceProps<Value extends string> {
  readonly label: string
  readonly value: Value
  readonly choices: readonly { readonly value: Value; readonly label: string }[]
  readonly onChange: (value: Value) => void
  /** The label is spoken, not shown. */
  readonly hideLabel?: boolean
  readonly size?: 'row' | 'small'
  readonly className?: string
  readonly trouble?: Trouble | undefined
}

/** A blank value is a choice too; the list itself cannot hold one. */
const keyOf = (value: string) => `=${value}`

/** A choice among a few. Typing its first letters finds one; Enter takes it; Escape leaves it as it was. */
export function Choice<Value extends string>(props: ChoiceProps<Value>) {
  const { label, value, choices, onChange, hideLabel = false, size, className, trouble } = props
  const id = useId()
  return (
    <div className={cn('min-w-0', className)}>
      <label className={hideLabel ? 'sr-only' : fieldLabel} htmlFor={id}>
        {label}
      </label>
      <Select.Root value={keyOf(value)} onValueChange={(next) => onChange(next.slice(1) as Value)}>
        <Select.Trigger
          id={id}
          aria-invalid={trouble !== undefined}
          aria-describedby={trouble && `${id}-note`}
          className={cn(input({ size }), 'flex items-center justify-between gap-1 text-left whitespace-nowrap')}
        >
          <span className="overflow-hidden text-ellipsis">
            <Select.Value />
          </span>
          <Select.Icon className="flex text-ink-soft">
            <ChevronDown size={15} aria-hidden />
          </Select.Icon>
        </Select.Trigger>
        <Select.Portal>
          <Select.Content
            position="popper"
            sideOffset={3}
            collisionPadding={8}
            className="z-70 max-h-[min(420px,var(--radix-select-content-available-height))] min-w-(--radix-select-trigger-width) rounded-sm border-[1.5px] border-ink bg-sheet"
          >
            <Select.Viewport nonce={getNonce()} className="p-1.5">
              {choices.map((choice) => (
                <Select.Item
                  key={choice.value}
                  value={keyOf(choice.value)}
                  className="flex items-center justify-between gap-4 rounded-sm px-2.5 py-1.5 text-row outline-none data-highlighted:bg-ground"
                >
                  <Select.ItemText>{choice.label}</Select.ItemText>
                  <Select.ItemIndicator>
                    <Check size={15} aria-hidden />
                  </Select.ItemIndicator>
                </Select.Item>
              ))}
            </Select.Viewport>
          </Select.Content>
        </Select.Portal>
      </Select.Root>
      {trouble && <RefusalNote id={`${id}-note`} refusal={trouble} onOffer={(offer) => onChange(offer as Value)} />}
    </div>
  )
}
