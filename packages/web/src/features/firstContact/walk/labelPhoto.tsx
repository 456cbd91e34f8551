import { MOST_LABEL_SIGNS } from '@calm/contract/walk'
import { labelFields, readingsOf, type LabelField } from '@calm/core/label'
import type { Device } from '@calm/core/job'
import { useState } from 'react'
import type { WalkActs } from '../../../api'
import { Button, Choice, FilePicker, Glyph, Problems } from '../../../ui'
import { readLabel } from '../../../workers'

interface LabelPhotoProps {
  readonly device: Device
  readonly acts: WalkActs
  /** What is taken off the label, each field once. */
  readonly onTake: (values: ReadonlyMap<LabelField, string>) => Promise<void>
}

interface Line {
  readonly format: string
  readonly text: string
  readonly sure: boolean
  readonly field: LabelField | ''
}

interface Read {
  readonly image: string
  readonly lines: readonly Line[]
}

/** A label is photographed, not typed: what was read off it, what each is taken for, and one tap that takes it. */
export function LabelPhoto({ device, acts, onTake }: LabelPhotoProps) {
  const [state, setState] = useState<'rest' | 'reading' | 'taking'>('rest')
  const [read, setRead] = useState<Read | undefined>(undefined)
  const [problem, setProblem] = useState<unknown>(undefined)
  const look = async (file: File) => {
    setProblem(undefined)
    setRead(undefined)
    setState('reading')
    try {
      const { codes, image } = await readLabel(file, MOST_LABEL_SIGNS)
      setRead({ image, lines: linesOf(codes, device) })
    } catch (reason) {
      setProblem(reason)
    }
    setState('rest')
  }
  const setField = (place: number, field: LabelField | '') =>
    setRead(
      (before) =>
        before && { ...before, lines: before.lines.map((line, n) => (n === place ? { ...line, field } : line)) },
    )
  const twice = (Object.keys(labelFields) as LabelField[]).filter(
    (field) => (read?.lines.filter((line) => line.field === field).length ?? 0) > 1,
  )
  const chosen = new Map(read?.lines.flatMap(({ field, text }) => (field === '' ? [] : [[field, text] as const])) ?? [])
  const take = async () => {
    if (!read) return
    setState('taking')
    try {
      if (read.image !== '')
        await acts.keepLabel({
          deviceId: device.id,
          image: read.image,
          codes: read.lines.map(({ format, text, field }) => ({ format, text, takenFor: field && labelFields[field] })),
        })
      await onTake(chosen)
      setRead(undefined)
    } catch (reason) {
      setProblem(reason)
    }
    setState('rest')
  }
  return (
    <div className="grid gap-2" aria-label={`Label of ${device.tag}`} role="group">
      <div className="flex flex-wrap items-center gap-3">
        <FilePicker
          label={`Picture of the label of ${device.tag}`}
          accept="image/*"
          camera
          onFile={(file) => void look(file)}
        >
          Photograph the label
        </FilePicker>
        {state === 'reading' && (
          <span className="note" role="status">
            Reading its codes: some seconds.
          </span>
        )}
      </div>
      <Problems reason={problem} />
      {read && (
        <div className="flex flex-wrap gap-4">
          {read.image !== '' && (
            <img
              src={read.image}
              alt={`Label of ${device.tag} as photographed`}
              className="max-h-45 max-w-60 border border-rule"
            />
          )}
          <div className="grid min-w-65 flex-1 content-start gap-2">
            {read.lines.length === 0 && (
              <p role="status">No code was read. Nearer, straight from the front, without glare; or type it below.</p>
            )}
            {read.lines.map((line, place) => (
              <div key={`${line.format}${line.text}${place}`} className="flex flex-wrap items-center gap-2.5">
                <Glyph state={line.field === '' ? 'not-started' : 'in-hand'} size={14} />
                <code className="font-typed font-medium wrap-anywhere">{line.text}</code>
                <span className="note">
                  {line.format}
                  {line.field !== '' && !line.sure && ', a guess'}
                </span>
                <Choice
                  hideLabel
                  size="small"
                  className="w-40"
                  label={`${line.text} is`}
                  value={line.field}
                  choices={[
                    { value: '', label: 'not taken' },
                    ...(Object.entries(labelFields) as [LabelField, string][]).map(([value, label]) => ({
                      value,
                      label,
                    })),
                  ]}
                  onChange={(field) => setField(place, field)}
                />
              </div>
            ))}
            {twice.map((field) => (
              <p key={field} className="text-odds" role="alert">
                Two are taken for the {labelFields[field]}: only one of them is it.
              </p>
            ))}
            {read.lines.length > 0 && (
              <div>
                <Button
                  look="act"
                  size="tall"
                  disabled={twice.length > 0 || chosen.size === 0 || state === 'taking'}
                  onClick={() => void take()}
                >
                  Take {chosen.size === 1 ? 'it' : `these ${chosen.size}`}
                </Button>
              </div>
            )}
          </div>
        </div>
      )}
    </div>
  )
}

/** Each value once, with what it is taken for; of two that may be the same field, the one that says so itself. */
function linesOf(
  codes: readonly { readonly format: string; readonly text: string }[],
  device: Device,
): readonly Line[] {
  const all = codes.flatMap(({ format, text }) =>
    readingsOf(text, device).map((each): Line => ({ format, ...each, field: each.field ?? '' })),
  )
  const once = all.filter(
    (line, n) => all.findIndex((other) => other.text === line.text && other.field === line.field) === n,
  )
  const isSaid = (field: Line['field']) => once.some((line) => line.field === field && line.sure)
  return once.map((line) => (!line.sure && line.field !== '' && isSaid(line.field) ? { ...line, field: '' } : line))
}
