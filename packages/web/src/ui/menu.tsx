import { DropdownMenu } from 'radix-ui'
import { cn } from './cn'

const item =
  'flex cursor-default justify-between gap-4.5 rounded-sm px-2.5 py-1.75 text-row text-ink no-underline outline-none data-highlighted:bg-ground'

interface MenuProps {
  /** The button that opens it. */
  readonly trigger: React.ReactNode
  readonly children: React.ReactNode
}

/** What is done now and then, behind one button. */
export function Menu({ trigger, children }: MenuProps) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          className="z-60 min-w-57.5 rounded-sm border-[1.5px] border-ink bg-sheet p-1.5"
          align="end"
          sideOffset={4}
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}

export function MenuItem({ onSelect, children }: { onSelect: () => void; children: React.ReactNode }) {
  return (
    <DropdownMenu.Item className={item} onSelect={onSelect}>
      {children}
    </DropdownMenu.Item>
  )
}

/** A file to be had. */
export function MenuDownload({ href, children }: { href: string; children: React.ReactNode }) {
  return (
    <DropdownMenu.Item asChild>
      <a className={item} href={href} download>
        {children}
      </a>
    </DropdownMenu.Item>
  )
}

interface CheckProps {
  readonly checked: boolean
  readonly disabled?: boolean
  readonly onChange: (checked: boolean) => void
  readonly children: React.ReactNode
}

/** Something to be had or not; the menu stays open for the next one. */
export function MenuCheck({ checked, disabled, onChange, children }: CheckProps) {
  return (
    <DropdownMenu.CheckboxItem
      className={cn(item, 'relative pl-8 data-disabled:text-ink-soft')}
      checked={checked}
      disabled={disabled}
      onCheckedChange={(next) => onChange(next === true)}
      onSelect={(event) => event.preventDefault()}
    >
      <DropdownMenu.ItemIndicator aria-hidden className="absolute left-2.5">
        ✓
      </DropdownMenu.ItemIndicator>
      {children}
    </DropdownMenu.CheckboxItem>
  )
}

export function MenuGroup({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <DropdownMenu.Group>
      <DropdownMenu.Separator className="my-1.25 h-px bg-rule-strong" />
      <DropdownMenu.Label className="px-2.5 pt-1 pb-0.5 text-note text-ink-soft">{label}</DropdownMenu.Label>
      {children}
    </DropdownMenu.Group>
  )
}
