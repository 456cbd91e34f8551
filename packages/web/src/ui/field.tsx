import { useId } from 'react'
import { RefusalNote } from './refusalNote'

interface FieldProps extends Omit<React.InputHTMLAttributes<HTMLInputElement>, 'onChange' | 'value'> {
  readonly label: string
  readonly value: string
  readonly ref?: React.Ref<HTMLInputElement> | undefined
  readonly typed?: boolean
  readonly trouble?:
    | {
        readonly what: string
        readonly expected: string
        readonly offers?: readonly { label: string; value: string }[]
      }
    | undefined
  readonly onChange: (value: string) => void
}

/** A labelled text field; what is wrong with it stands under it. */
export function Field({ label, value, ref, typed = false, trouble, onChange, ...rest }: FieldProps) {
  const id = useId()
  return (
    <div className="field">
      <label className="field-label" htmlFor={id}>
        {label}
      </label>
      <input
        {...rest}
        ref={ref}
        id={id}
        className={`input ${typed ? 'typed' : ''}`}
        value={value}
        spellCheck={false}
        autoComplete="off"
        aria-invalid={trouble !== undefined}
        aria-describedby={trouble ? `${id}-note` : undefined}
        onChange={(event) => onChange(event.target.value)}
      />
      {trouble && <RefusalNote id={`${id}-note`} refusal={trouble} onOffer={onChange} />}
    </div>
  )
}

interface ChoiceProps {
  readonly label: string
  readonly value: string
  readonly choices: readonly { readonly value: string; readonly label: string }[]
  readonly onChange: (value: string) => void
  readonly hideLabel?: boolean
}

/** A choice among a few. The system's own list, because it is the one that every keyboard and screen reader knows. */
export function Choice({ label, value, choices, onChange, hideLabel = false }: ChoiceProps) {
  const id = useId()
  return (
    <div className="field">
      <label className={hideLabel ? 'visually-hidden' : 'field-label'} htmlFor={id}>
        {label}
      </label>
      <select id={id} className="input" value={value} onChange={(event) => onChange(event.target.value)}>
        {choices.map((choice) => (
          <option key={choice.value} value={choice.value}>
            {choice.label}
          </option>
        ))}
      </select>
    </div>
  )
}
