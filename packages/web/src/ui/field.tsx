import { useId } from 'react'
import { fieldLabel, input } from './input'
import { RefusalNote } from './refusalNote'

/** Why what was typed cannot be used, as it stands under its field. */
export interface Trouble {
  readonly what: string
  readonly expected: string
  readonly offers?: readonly { label: string; value: string }[]
}

interface FieldProps extends Omit<React.InputHTMLAttributes<HTMLInputElement>, 'onChange' | 'value' | 'size'> {
  readonly label: string
  readonly value: string
  readonly ref?: React.Ref<HTMLInputElement> | undefined
  readonly typed?: boolean
  readonly size?: 'row' | 'tall'
  readonly trouble?: Trouble | undefined
  readonly onChange: (value: string) => void
}

/** A labelled text field; what is wrong with it stands under it. */
export function Field({ label, value, ref, typed = false, size, trouble, onChange, className, ...rest }: FieldProps) {
  const id = useId()
  return (
    <div className={className}>
      <label className={fieldLabel} htmlFor={id}>
        {label}
      </label>
      <input
        {...rest}
        ref={ref}
        id={id}
        className={input({ typed, size })}
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

interface AreaProps extends Omit<React.TextareaHTMLAttributes<HTMLTextAreaElement>, 'onChange' | 'value'> {
  readonly label: string
  readonly value: string
  readonly typed?: boolean
  readonly onChange: (value: string) => void
}

/** A labelled field of several lines. */
export function Area({ label, value, typed = false, onChange, className, ...rest }: AreaProps) {
  const id = useId()
  return (
    <div className={className}>
      <label className={fieldLabel} htmlFor={id}>
        {label}
      </label>
      <textarea
        {...rest}
        id={id}
        className={input({ typed, area: true })}
        value={value}
        spellCheck={false}
        onChange={(event) => onChange(event.target.value)}
      />
    </div>
  )
}
