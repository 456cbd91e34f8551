import { Switch as Radix } from 'radix-ui'
import { useId } from 'react'

interface SwitchProps {
  /** What is spoken; with what it belongs to, where several look alike. */
  readonly label: string
  readonly children: React.ReactNode
  readonly on: boolean
  readonly onTurn: (on: boolean) => void
}

/** Something that is on or off at once, with its words beside it. */
export function Switch({ label, children, on, onTurn }: SwitchProps) {
  const id = useId()
  return (
    <div className="grid grid-cols-[40px_1fr] items-start gap-2.5">
      <Radix.Root
        id={id}
        checked={on}
        aria-label={label}
        className="block h-5.5 w-10 rounded-sm border-[1.5px] border-ink bg-well p-0.5"
        onCheckedChange={onTurn}
      >
        <Radix.Thumb className="block size-3.75 rounded-sm bg-ink-faint data-[state=checked]:translate-x-4.5 data-[state=checked]:bg-ink" />
      </Radix.Root>
      <label htmlFor={id}>{children}</label>
    </div>
  )
}
