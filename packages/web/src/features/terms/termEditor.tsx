import { notations, parseReference, type Notation } from '@calm/core/modbus'
import { termDefinition, type End, type HandshakeTerms, type TermEntry, type TermId } from '@calm/core/terms'
import { useState } from 'react'
import { Choice, Field } from '../../ui'
import { originOf, troubleFrom, type TermText } from './useTermEdit'

interface TermEditorProps {
  readonly id: TermId
  readonly end: End
  readonly tag: string
  /** All terms of the handshake: what one means may depend on another. */
  readonly terms: HandshakeTerms
  readonly entry: TermEntry | undefined
  readonly fromLineUp: boolean
  readonly onSave: (next: TermText) => Promise<unknown>
  readonly onClose: () => void
}

/** Opens where the value stands. What cannot be read stays, with the reason and the likely reading. */
export function TermEditor({ id, end, tag, terms, entry, fromLineUp, onSave, onClose }: TermEditorProps) {
  const term = termDefinition(id)
  const [text, setText] = useState(entry?.text ?? '')
  const [notation, setNotation] = useState<Notation | ''>(entry?.notation ?? '')
  const [origin, setOrigin] = useState(originOf(entry, end, tag))
  const [trouble, setTrouble] = useState<
    { what: string; expected: string; offers?: readonly { label: string; value: string }[] } | undefined
  >()

  const save = async (value: string) => {
    const next = { text: value.trim(), origin, ...(notation !== '' && { notation }) }
    if (value.trim() !== '') {
      const reading = term.parse(next, { terms, end })
      if (!reading.ok) return setTrouble(reading.refusal)
    }
    try {
      await onSave({ text: value.trim(), notation: notation === '' ? null : notation, origin: origin.trim() })
      onClose()
    } catch (reason) {
      setTrouble(troubleFrom(reason))
    }
  }

  return (
    <form
      className="grid gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        void save(text)
      }}
    >
      <b>
        {term.name}, {tag}
      </b>
      {term.choices && trouble === undefined && (text === '' || term.choices.some((choice) => choice.text === text)) ? (
        <Choice
          label={term.explain}
          value={text}
          choices={[
            ...(text === '' ? [{ value: '', label: 'choose' }] : []),
            ...term.choices.map((choice) => ({ value: choice.text, label: choice.label })),
          ]}
          onChange={setText}
        />
      ) : (
        <Field
          label={term.explain}
          typed
          autoFocus
          placeholder={term.example}
          value={text}
          trouble={trouble}
          onChange={(value) => {
            setText(value)
            setTrouble(undefined)
          }}
        />
      )}
      {id === 'first-register' && <NotationChoice text={text} notation={notation} onChange={setNotation} />}
      {fromLineUp ? (
        <p className="note">Held by the line-up: it changes there too.</p>
      ) : (
        <Field label="Where it stands" value={origin} onChange={setOrigin} />
      )}
      <div className="form-actions">
        <button type="submit" className="act">
          Set
        </button>
        <button type="button" className="quiet" onClick={onClose}>
          Leave it
        </button>
      </div>
      <p className="note">Changes what is written down here. Nothing is sent to the device.</p>
    </form>
  )
}

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
    <Choice
      label="How this document counts"
      value={notation}
      choices={[
        { value: '', label: 'not said' },
        ...choices.filter((choice, k) => choices.findIndex((other) => other.value === choice.value) === k),
      ]}
      onChange={(next) => onChange(next as Notation | '')}
    />
  )
}
