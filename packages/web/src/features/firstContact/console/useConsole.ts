import type { Problem } from '@calm/contract'
import type { ConsoleFromPage, ConsoleToPage } from '@calm/contract/console'
import { FitAddon } from '@xterm/addon-fit'
import { Terminal } from '@xterm/xterm'
import '@xterm/xterm/css/xterm.css'
import { useEffect, useRef, useState } from 'react'

/** How the task in the menu stands, as the server says it. */
export type MenuMessage = Extract<ConsoleToPage, { kind: 'menu' }>
type ReadMessage = Extract<ConsoleToPage, { kind: 'read' }>

export interface Console {
  readonly box: React.RefObject<HTMLDivElement | null>
  readonly open: boolean
  readonly problem: Problem | undefined
  readonly begin: () => void
  readonly close: () => void
  readonly type: (text: string) => void
  /** Has a step of the walk done in the menu. */
  readonly doStep: (stepKey: string) => void
  readonly stopTask: () => void
  readonly menu: MenuMessage | undefined
  /** What it showed by itself, the latest of each. */
  readonly read: ReadonlyMap<string, string>
}

interface Around {
  readonly jobId: string
  /** @example 'serial:/dev/ttyUSB0:9600 8N1' */
  readonly via: string
  readonly deviceId: string
  /** Ctrl Enter within the console. */
  readonly onNext: () => void
  readonly onMenu: (message: MenuMessage) => void
}

/** A terminal in the page and its socket to the server. */
export function useConsole({ jobId, via, deviceId, onNext, onMenu }: Around): Console {
  const box = useRef<HTMLDivElement>(null)
  const terminal = useRef<Terminal | undefined>(undefined)
  const socket = useRef<WebSocket | undefined>(undefined)
  const next = useRef(onNext)
  const heard = useRef(onMenu)
  const [open, setOpen] = useState(false)
  const [problem, setProblem] = useState<Problem | undefined>(undefined)
  const [menu, setMenu] = useState<MenuMessage | undefined>(undefined)
  const [read, setRead] = useState<ReadonlyMap<string, string>>(new Map())
  useEffect(() => {
    next.current = onNext
    heard.current = onMenu
  })

  useEffect(() => {
    const into = box.current
    if (!into) return undefined
    const { term, fit } = terminalIn(into)
    term.onData((text) => send(socket.current, { kind: 'type', text }))
    term.attachCustomKeyEventHandler((event) => {
      if (!event.ctrlKey || event.key !== 'Enter') return true
      if (event.type === 'keydown') next.current()
      return false
    })
    terminal.current = term
    const resize = new ResizeObserver(() => fit.fit())
    resize.observe(into)
    return () => {
      resize.disconnect()
      socket.current?.close()
      term.dispose()
    }
  }, [])

  const take = (message: ConsoleToPage) => {
    if (message.kind === 'text') terminal.current?.write(message.text)
    if (message.kind === 'problem') setProblem(message.problem)
    if (message.kind === 'read') setRead((before) => withRead(before, message))
    if (message.kind === 'menu') {
      setMenu(message)
      heard.current(message)
    }
    if (message.kind === 'open') {
      setOpen(true)
      terminal.current?.focus()
    }
  }
  const begin = () => {
    setProblem(undefined)
    setMenu(undefined)
    terminal.current?.clear()
    const scheme = window.location.protocol === 'https:' ? 'wss' : 'ws'
    const query = new URLSearchParams({ via, device: deviceId })
    const web = new WebSocket(`${scheme}://${window.location.host}/api/jobs/${jobId}/console?${query}`)
    socket.current = web
    web.onmessage = (event) => take(JSON.parse(String(event.data)) as ConsoleToPage)
    web.onclose = () => setOpen(false)
  }
  const sendAndFocus = (message: ConsoleFromPage) => {
    send(socket.current, message)
    terminal.current?.focus()
  }
  return {
    box,
    open,
    problem,
    begin,
    close: () => socket.current?.close(),
    type: (text) => sendAndFocus({ kind: 'type', text }),
    doStep: (stepKey) => sendAndFocus({ kind: 'menu', stepKey }),
    stopTask: () => {
      setMenu(undefined)
      sendAndFocus({ kind: 'menu-stop' })
    },
    menu,
    read,
  }
}

const withRead = (before: ReadonlyMap<string, string>, { values }: ReadMessage) =>
  new Map([...before, ...values.map(({ is, text }) => [is, text] as const)])

const send = (web: WebSocket | undefined, message: ConsoleFromPage) =>
  web?.readyState === WebSocket.OPEN && web.send(JSON.stringify(message))

function terminalIn(into: HTMLElement): { readonly term: Terminal; readonly fit: FitAddon } {
  const style = getComputedStyle(into)
  const term = new Terminal({
    fontFamily: style.getPropertyValue('--font-typed'),
    fontSize: 15,
    cursorBlink: false,
    theme: {
      background: style.getPropertyValue('--color-well').trim(),
      foreground: style.getPropertyValue('--color-ink').trim(),
      cursor: style.getPropertyValue('--color-ink').trim(),
      selectionBackground: style.getPropertyValue('--color-ground-press').trim(),
    },
  })
  const fit = new FitAddon()
  term.loadAddon(fit)
  withStyleNonce(() => term.open(into))
  fit.fit()
  return { term, fit }
}

/** The terminal adds style elements of its own: they carry the page's nonce, as the page's policy asks. */
function withStyleNonce(work: () => void): void {
  const nonce = document.querySelector('meta[name=style-nonce]')?.getAttribute('content') ?? ''
  const create = document.createElement.bind(document)
  document.createElement = ((name: string, options?: ElementCreationOptions) => {
    const element = create(name, options)
    if (name.toLowerCase() === 'style') element.setAttribute('nonce', nonce)
    return element
  }) as typeof document.createElement
  try {
    work()
  } finally {
    document.createElement = create
  }
}
