import { parseReference } from '@calm/core/modbus'
import { useState } from 'react'
import { Button, cn, Dialog, Field, formActions, input, RefusalNote } from '../../ui'
import { readPastedWords, type PastedWords } from './readWords'

/** Words out of a programming tool, a photo or a controller's screen, with the register they begin at. */
export function PasteWords({
  from,
  onWords,
  label = 'Type or paste words',
  title = 'Words as somebody shows them',
}: {
  from: number
  onWords: (words: PastedWords) => void
  label?: string
  title?: string
}) {
  const [open, setOpen] = useState(false)
  const [text, setText] = useState('')
  const [first, setFirst] = useState(String(from))
  const reference = parseReference(first)
  const address = reference.ok ? reference.value[0]?.address : undefined
  const read = readPastedWords(text, address ?? 0)
  const take = () => {
    if (!read.ok || address === undefined) return
    onWords(read.value)
    setOpen(false)
    setText('')
  }
  return (
    <>
      <Button onClick={() => setOpen(true)}>{label}</Button>
      {open && (
        <Dialog
          title={title}
          say="One line with all words from a register on, or lines with a register and its word. Hexadecimal, with a sign or without."
          open
          onClose={() => setOpen(false)}
        >
          <form
            className="mt-3 grid gap-3"
            onSubmit={(event) => {
              event.preventDefault()
              take()
            }}
          >
            <Field
              label="First register"
              typed
              value={first}
              trouble={reference.ok ? undefined : reference.refusal}
              onChange={setFirst}
            />
            <p className="note">{reference.ok ? reference.value[0]?.explanation : ''}</p>
            <textarea
              className={cn(input({ typed: true, area: true }))}
              aria-label="Words"
              rows={5}
              spellCheck={false}
              placeholder="4229 999A 0000 0140"
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
            {text.trim() !== '' && !read.ok && (
              <RefusalNote id="words-note" refusal={read.refusal} onOffer={() => undefined} />
            )}
            {read.ok && (
              <p className="note">
                {read.value.words.filter((word) => word !== undefined).length} words from address {read.value.first}.
              </p>
            )}
            <div className={formActions}>
              <Button type="submit" look="act" disabled={!read.ok || address === undefined}>
                Take these words
              </Button>
            </div>
          </form>
        </Dialog>
      )}
    </>
  )
}
