import type { Result } from '@calm/core/units'
import { useEffect, useRef, useState } from 'react'
import { ProblemError } from '../api'
import { tellLost } from './lostEdits'

/** What is wrong with what was typed, and what would do. */
export interface EditTrouble {
  readonly what: string
  readonly expected: string
  readonly offers?: readonly { label: string; value: string }[]
}

interface Edited {
  readonly label: string
  readonly text: string
  readonly read: (text: string) => Result<unknown>
  readonly onSave: (text: string) => Promise<unknown>
}

/** What was typed and is on its way to the server. */
interface Sent {
  readonly text: string
  /** What stood there when it was sent: once something else does, that is what came of it. */
  readonly over: string
}

/**
 * A value that is edited where it stands, from opening to saved. What was read goes on its way at once and stands there
 * as text; should the server refuse it, the field is open again with what was typed and the reason.
 */
export function useEditing({ label, text, read, onSave }: Edited) {
  const [draft, setDraft] = useState<string | undefined>(undefined)
  const [trouble, setTrouble] = useState<EditTrouble | undefined>(undefined)
  /** Somebody else saved this while it was typed. Nothing is saved then until the person has chosen. */
  const [conflict, setConflict] = useState(false)
  const [sent, setSent] = useState<Sent | undefined>(undefined)
  const button = useRef<HTMLButtonElement>(null)
  /** The focus goes back to where the value stands. */
  const goesBack = useRef(false)
  /** The field was asked for by the person a moment ago. */
  const takesFocus = useRef(false)
  /** Leaving a field that has been sent must not send it a second time. */
  const isOpen = useRef(false)
  const isThere = useRef(true)
  const latest = useRef<Sent | undefined>(undefined)
  useEffect(() => {
    isThere.current = true
    return () => void (isThere.current = false)
  }, [])
  useEffect(() => {
    if (draft === undefined && goesBack.current) {
      goesBack.current = false
      button.current?.focus()
    }
  }, [draft])

  const standing = sent && text === sent.over ? sent.text : text
  const show = (typed: string, focus: boolean) => {
    isOpen.current = true
    takesFocus.current = focus
    setDraft(typed)
  }
  const close = () => {
    isOpen.current = false
    setDraft(undefined)
    setTrouble(undefined)
    setConflict(false)
  }
  const reopen = (going: Sent, reason: unknown) => {
    const [problem] = reason instanceof ProblemError ? reason.problems : []
    if (!isThere.current)
      return tellLost({ label, text: going.text, what: problem?.what ?? 'The server did not take it.' })
    const said = problem ?? { what: 'It could not be saved. What you typed stays here.', expected: '' }
    // Where something else is typed by now it stays, with what became of this.
    const isNewer = isOpen.current
    const { activeElement } = document
    if (!isNewer) show(going.text, activeElement === button.current || activeElement === document.body)
    if (reason instanceof ProblemError && reason.status === 409) return setConflict(true)
    setTrouble(isNewer ? { ...said, what: `${going.text} was not saved. ${said.what}` } : said)
  }
  const send = async (typed: string) => {
    const going: Sent = { text: typed, over: text }
    latest.current = going
    setSent(going)
    close()
    try {
      await onSave(typed)
    } catch (reason) {
      reopen(going, reason)
    } finally {
      if (latest.current === going) setSent(undefined)
    }
  }
  const save = (typed: string) => {
    if (!isOpen.current) return
    if (typed.trim() === standing.trim()) return close()
    const reading = read(typed)
    if (!reading.ok) return setTrouble(reading.refusal)
    void send(typed.trim())
  }

  return {
    draft,
    trouble,
    conflict,
    /** What stands there now: what was sent counts, until the job says what came of it. */
    standing,
    /** Whether the server has still to take what was typed. */
    isSending: sent !== undefined,
    button,
    /** For the field as it appears: it has the focus where the person asked for it. */
    appear: (field: HTMLInputElement | null) => {
      if (!field || !takesFocus.current) return
      takesFocus.current = false
      field.focus()
    },
    open: () => show(standing, true),
    type: (typed: string) => {
      setDraft(typed)
      setTrouble(undefined)
      setConflict(false)
    },
    save,
    saveInstead: (typed: string) => {
      setConflict(false)
      save(typed)
    },
    close,
    goBack: () => void (goesBack.current = true),
  }
}
