import { notations, parseReference, type Notation } from '@calm/core/modbus'
import {
  termDefinition,
  type End,
  type HandshakeTerms,
  type TermEntry,
  type TermId,
  type TermPlace,
} from '@calm/core/terms'
import type { EndStanding, TermStanding } from '@calm/core/job'
import { useSchemaForm } from '../../forms'
import { Button, Choice, Field, formActions, Problems, Radios } from '../../ui'
import { PlacesEditor } from './placesEditor'
import { tellSeen } from './standingMark'
import { originOf, type TermText } from './useTermEdit'

interface TermEditorProps {
  readonly id: TermId
  readonly end: End
  readonly tag: string
  /** All terms of the handshake: what one means may depend on another. */
  readonly terms: HandshakeTerms
  readonly entry: TermEntry | undefined
  readonly fromLineUp: boolean
  readonly standing: EndStanding | undefined
  readonly onSave: (next: TermText) => Promise<unknown>
  /** What stands in the field was found, was entered, or is in force. */
  readonly onSeen: (as: TermStanding, seen: Pick<TermEntry, 'text' | 'notation'>) => Promise<unknown>
  readonly onClose: () => void
}

type Form = {
  readonly text: string
  readonly notation: Notation | ''
  readonly origin: string
  readonly places: readonly TermPlace[]
}

/** Opens where the value stands. What cannot be read stays, with the reason and the likely reading. */
export function TermEditor({
  id,
  end,
  tag,
  terms,
  entry,
  fromLineUp,
  standing,
  onSave,
  onSeen,
  onClose,
}: TermEditorProps) {
  const term = termDefinition(id)
  const fieldsIn = ({ text, notation, origin }: Form) => ({ text, origin, ...(notation !== '' && { notation }) })
  const form = useSchemaForm<Form>({
    start: {
      text: entry?.text ?? '',
      notation: entry?.notation ?? '',
      origin: originOf(entry, end, tag),
      places: entry?.places ?? [],
    },
    check: (values) => {
      if (values.text === '') return []
      const reading = term.parse(fieldsIn(values), { terms, end })
      return reading.ok ? [] : [{ ...reading.refusal, where: 'text' }]
    },
    send: ({ text, notation, origin, places }) => {
      const named = places.filter(({ where }) => where.trim() !== '')
      return onSave({
        text,
        notation: notation === '' ? null : notation,
        origin,
        ...(!fromLineUp && { places: named }),
      }).then(onClose)
    },
  })
  const { text, notation } = form.values
  const value = { text: text.trim(), ...(notation !== '' && { notation }) }
  const isReadable = term.parse({ ...value, origin: '' }, { terms, end }).ok
  const field = form.bind('text')
  return (
    <form className="grid gap-2" onSubmit={form.onSubmit} noValidate>
      <b>
        {term.name}, {tag}
      </b>
      {term.choices &&
      field.trouble === undefined &&
      (text === '' || term.choices.some((choice) => choice.text === text)) ? (
        <Choice
          label={term.explain}
          value={text}
          choices={[
            ...(text === '' ? [{ value: '', label: 'choose' }] : []),
            ...term.choices.map((choice) => ({ value: choice.text, label: choice.label })),
          ]}
          onChange={field.onChange}
        />
      ) : (
        <Field label={term.explain} typed autoFocus placeholder={term.example} {...field} />
      )}
      {id === 'first-register' && (
        <NotationChoice text={text} notation={notation} onChange={(next) => form.set({ notation: next })} />
      )}
      {fromLineUp ? (
        <p className="note">Held by the line-up: it changes there too.</p>
      ) : (
        <>
          <Field label="Where it stands" {...form.bind('origin')} />
          <PlacesEditor text={text} places={form.values.places} onChange={(places) => form.set({ places })} />
        </>
      )}
      <Problems reason={form.trouble} />
      <div className={formActions}>
        <Button type="submit" look="act">
          Set
        </Button>
        <Button onClick={onClose}>Leave it</Button>
      </div>
      <p className="note">Changes what is written down here. Nothing is sent to the device.</p>
      {text.trim() !== '' && (
        <div className="mt-1 border-t border-rule pt-2">
          {standing && standing.state !== 'open' && <p className="mb-1.5 text-note">{tellSeen(standing)}</p>}
          <div className="flex flex-wrap items-center gap-x-2 gap-y-1 text-note">
            <span className="text-ink-soft">What stands in the field</span>
            {(['found', 'entered', 'in-force'] as const).map((as) => (
              <Button key={as} disabled={!isReadable} onClick={() => void onSeen(as, value).then(onClose)}>
                {seenWords[as]}
              </Button>
            ))}
          </div>
        </div>
      )}
    </form>
  )
}

const seenWords: Readonly<Record<TermStanding, string>> = {
  found: 'was found',
  entered: 'is entered',
  'in-force': 'is in force',
}

const NOT_SAID = 'not-said'

/** A register can mostly be read in several ways: how this document counts is asked once, with each reading in words. */
function NotationChoice({
  text,
  notation,
  onChange,
}: {
  text: string
  notation: Notation | ''
  onChange: (next: Notation | '') => void
}) {
  const readings = parseReference(text)
  const choices = readings.ok
    ? readings.value.map((reading) => ({ value: reading.notation, label: reading.explanation }))
    : Object.entries(notations).map(([value, label]) => ({ value, label }))
  return (
    <Radios
      label="How this document counts"
      value={notation === '' ? NOT_SAID : notation}
      choices={[
        { value: NOT_SAID, label: 'not said' },
        ...choices.filter((choice, k) => choices.findIndex((other) => other.value === choice.value) === k),
      ]}
      onChange={(next) => onChange(next === NOT_SAID ? '' : (next as Notation))}
    />
  )
}
