import type { TermPlace } from '@calm/core/terms'
import { Copy, Plus, X } from 'lucide-react'
import { Button, cn, input } from '../../ui'

interface PlacesProps {
  /** What must stand in every place. */
  readonly text: string
  readonly places: readonly TermPlace[]
  readonly onChange: (places: readonly TermPlace[]) => void
}

/** Where else a term must stand at one end: the text to copy, and what was seen in each place. */
export function PlacesEditor({ text, places, onChange }: PlacesProps) {
  const set = (index: number, more: Partial<TermPlace>) =>
    onChange(places.map((place, k) => (k === index ? { ...place, ...more } : place)))
  return (
    <fieldset className="grid gap-1.5">
      <legend className="mb-1 flex w-full items-center gap-2 text-note text-ink-soft">
        <span>Where else it stands</span>
        <Button look="plain" className="text-note" onClick={() => onChange([...places, { where: '', text: '' }])}>
          <Plus size={13} aria-hidden /> Place
        </Button>
        {text.trim() !== '' && (
          <Button
            look="plain"
            className="ml-auto text-note"
            onClick={() => void navigator.clipboard.writeText(text.trim())}
          >
            <Copy size={13} aria-hidden /> Copy {text.trim()}
          </Button>
        )}
      </legend>
      {places.map((place, k) => (
        // A place has no name of its own: its number is all that tells it from the others.
        <div key={k} className="grid grid-cols-[1fr_8rem_auto_auto] items-center gap-1.5">
          <input
            className={input({ size: 'small' })}
            aria-label={`Place ${k + 1}`}
            placeholder="project, display"
            value={place.where}
            maxLength={60}
            onChange={(event) => set(k, { where: event.target.value })}
          />
          <input
            className={cn(input({ typed: true, size: 'small' }))}
            aria-label={`What stands in place ${k + 1}`}
            placeholder="not looked at"
            value={place.text}
            maxLength={60}
            onChange={(event) => set(k, { text: event.target.value })}
          />
          <Button look="plain" className="text-note" onClick={() => set(k, { text: text.trim() })}>
            same
          </Button>
          <Button
            look="icon"
            aria-label={`Take place ${k + 1} away`}
            onClick={() => onChange(places.filter((_each, other) => other !== k))}
          >
            <X size={14} aria-hidden />
          </Button>
        </div>
      ))}
    </fieldset>
  )
}
