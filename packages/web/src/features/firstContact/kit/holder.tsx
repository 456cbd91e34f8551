import { useRef, useState } from 'react'
import { Field } from '../../../ui'

interface Props {
  readonly tag: string
  /** Who was said to hold the password; blank where nobody said it yet. */
  readonly holder: string
  /** Writes down who holds it; rejects where that was refused. */
  readonly onSay: (text: string) => Promise<unknown>
}

/** Who holds the password of one device. It is written down with Enter and when the field is left, once for both. */
export function Holder({ tag, holder, onSay }: Props) {
  const [text, setText] = useState(holder)
  const said = useRef(holder)
  const save = () => {
    const typed = text.trim()
    if (typed === '' || typed === said.current) return
    const before = said.current
    said.current = typed
    onSay(typed).catch(() => {
      // Refused, it stands there as it was typed, and may be said again.
      if (said.current === typed) said.current = before
    })
  }
  return (
    <li className="border-t border-rule py-1.5">
      <Field
        label={tag}
        placeholder="nobody said yet"
        value={text}
        onChange={setText}
        onBlur={save}
        onKeyDown={(event) => event.key === 'Enter' && save()}
      />
    </li>
  )
}
