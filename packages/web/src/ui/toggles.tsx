import { cva, type VariantProps } from 'class-variance-authority'
import { ToggleGroup } from 'radix-ui'
import { cn } from './cn'
import { tip } from './tips'

const item = cva(
  'flex items-center gap-1.25 rounded-sm whitespace-nowrap hover:bg-ground data-[state=on]:rounded-none data-[state=on]:shadow-[inset_0_-3px_0_var(--color-ink)]',
  {
    variants: { size: { row: 'h-9 px-1.75 text-row', small: 'min-h-6.5 px-1.5 py-0.5 text-note' } },
    defaultVariants: { size: 'row' },
  },
)

interface TogglesProps<Value extends string> extends VariantProps<typeof item> {
  readonly label: string
  readonly value: Value
  readonly items: readonly { readonly value: Value; readonly say: React.ReactNode; readonly tip?: string }[]
  readonly className?: string
  /** Pressing the one that is on gives the blank value, where there is one. */
  readonly blank?: Value
  readonly onChange: (value: Value) => void
}

/** A few ways to show the same thing, of which one is on. Left and right go from one to the next. */
export function Toggles<Value extends string>(props: TogglesProps<Value>) {
  const { label, value, items, size, className, blank, onChange } = props
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      className={cn('flex gap-0.5 max-phone:flex-wrap', className)}
      onValueChange={(next) => {
        if (next !== '') onChange(next as Value)
        else if (blank !== undefined) onChange(blank)
      }}
    >
      {items.map((each) => (
        <ToggleGroup.Item key={each.value} value={each.value} className={item({ size })} {...tip(each.tip)}>
          {each.say}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  )
}
