import type { Problem } from '@calm/contract'
import { settingOf } from '@calm/core/job'
import { isSettled, isTypeable } from '@calm/core/procedure'
import { FitAddon } from '@xterm/addon-fit'
import { Terminal } from '@xterm/xterm'
import '@xterm/xterm/css/xterm.css'
import { useEffect, useMemo, useRef, useState } from 'react'
import { api } from '@calm/contract/api'
import { call, ProblemError, useFronts } from '../../../api'
import { Button, Choice, cn, Field, Problems } from '../../../ui'
import { useQuery } from '@tanstack/react-query'
import type { ViewProps } from '../viewProps'

/** When no prompt comes, in this order. @source common practice, no source */
const NO_PROMPT = [
  'The port: unplug the adapter and see which port goes.',
  'The settings of the line: baud rate, data bits, parity, stop bits, no flow control.',
  'The cable: null-modem or straight. Try the other one.',
  'Power of the card: see its lamp; it may still be starting.',
]

/** A console in the page: serial port or TCP, with what is to be typed next beside it. */
export function ConsoleView({ job, contact }: ViewProps) {
  const fronts = useFronts(job.mode === 'bench')
  const ports = useQuery({ queryKey: ['serial-ports'], queryFn: () => call(api.serialPorts, {}) })
  const choices = useMemo(
    () => [
      ...(job.mode === 'bench' ? (fronts.data?.fronts.filter((front) => front.console) ?? []) : []).map((front) => ({
        value: `bench:${front.tag}`,
        label: `serial socket of ${front.tag} (stand-in)`,
      })),
      ...(ports.data?.ports ?? []).map((port) => ({
        value: `serial:${port.path}`,
        label: `${port.path} ${port.about}`,
      })),
      { value: 'typed', label: 'another port or address' },
    ],
    [job.mode, fronts.data, ports.data],
  )
  const [chosen, setChosen] = useState<string | undefined>(undefined)
  const choice = chosen ?? choices[0]?.value ?? 'typed'
  const [typed, setTyped] = useState('')
  const [line, setLine] = useState('9600 8N1')
  const via = choice === 'typed' ? viaOf(typed, line) : choice.startsWith('serial:') ? `${choice}:${line}` : choice
  const nextText = useRef<() => string | undefined>(() => undefined)
  const session = useConsole(job.id, via, nextText)
  // What goes over this socket: the steps of its device, else of whatever has a serial menu.
  const speaks = (deviceId: string | null) => {
    const device = job.devices.find((each) => each.id === deviceId)
    if (via.startsWith('bench:')) return device?.tag === via.slice('bench:'.length)
    return device !== undefined && settingOf(job, device).way === 'serial-menu'
  }
  const first = contact.stops
    .flatMap((stop) => stop.steps)
    .find((each) => each.step.type && !isSettled(each) && speaks(each.deviceId))
  const [sent, setSent] = useState(0)
  const texts = first?.step.type ?? []
  useEffect(() => setSent(0), [first?.key])
  useEffect(() => {
    nextText.current = () => {
      const text = texts[sent]
      if (text !== undefined) setSent(sent + 1)
      // What is not planned is read off a label and typed by hand.
      return text !== undefined && isTypeable(text) ? text : undefined
    }
  })
  return (
    <div className="flex min-h-0 flex-1 flex-col overflow-y-auto px-6 pt-4 pb-8">
      <div className="my-2 flex flex-wrap items-end gap-x-4.5 gap-y-3">
        <Choice label="Console over" value={choice} choices={choices} onChange={setChosen} />
        {choice === 'typed' && <Field label="Port or address:port" value={typed} typed onChange={setTyped} />}
        {!choice.startsWith('bench:') && <Field label="Line" value={line} typed onChange={setLine} />}
        {session.open ? (
          <Button onClick={session.close}>Close and keep the text</Button>
        ) : (
          <Button look="act" onClick={session.begin}>
            Open
          </Button>
        )}
      </div>
      {ports.data?.note && <p className="note">{ports.data.note}</p>}
      {session.problem && <Problems reason={new ProblemError(422, [session.problem])} />}
      <div className="grid min-h-80 flex-1 grid-cols-[minmax(0,1fr)_290px] gap-6 max-phone:grid-cols-1">
        <div
          ref={session.box}
          className="min-h-80 overflow-hidden rounded-sm border border-rule-strong bg-well p-2"
          aria-label="Console"
        />
        <aside aria-label="Next to type">
          <h3 className="mt-2.5 mb-1 font-heavy">Next to type</h3>
          {first ? (
            <>
              <p className="note">{first.step.say}</p>
              <ul>
                {texts.map((text, index) => (
                  <li key={`${text}${index}`} className="flex items-center justify-between gap-2 py-1">
                    <code
                      className={cn(
                        'font-typed text-lead font-medium',
                        index === sent && 'rounded-sm bg-ground px-2 py-0.5',
                      )}
                    >
                      {text}
                    </code>
                    <Button
                      disabled={!session.open || !isTypeable(text)}
                      onClick={() => {
                        session.type(`${text}\r`)
                        setSent(index + 1)
                      }}
                    >
                      Send
                    </Button>
                  </li>
                ))}
              </ul>
              <p className="note">
                <kbd>Ctrl Enter</kbd> in the console sends the next one.
              </p>
            </>
          ) : (
            <p className="note">The walk has nothing to type.</p>
          )}
          <h3 className="mt-2.5 mb-1 font-heavy">No prompt comes?</h3>
          <ol className="list-decimal pl-4.5 note">
            {NO_PROMPT.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ol>
          <p className="note">The text of the session is kept when it is closed. Passwords are masked.</p>
        </aside>
      </div>
    </div>
  )
}

/** @example viaOf('10.20.40.61:23', '9600 8N1') is over TCP, '/dev/ttyUSB0' over a serial port */
function viaOf(typed: string, line: string): string {
  const text = typed.trim()
  return /^[\d.]+:\d+$/.test(text) ? `tcp:${text}` : `serial:${text}:${line}`
}

interface Session {
  readonly box: React.RefObject<HTMLDivElement | null>
  readonly open: boolean
  readonly problem: Problem | undefined
  readonly begin: () => void
  readonly close: () => void
  readonly type: (text: string) => void
}

function useConsole(jobId: string, via: string, nextText: React.RefObject<() => string | undefined>): Session {
  const box = useRef<HTMLDivElement>(null)
  const terminal = useRef<Terminal | undefined>(undefined)
  const socket = useRef<WebSocket | undefined>(undefined)
  const [open, setOpen] = useState(false)
  const [problem, setProblem] = useState<Problem | undefined>(undefined)

  useEffect(() => {
    const into = box.current
    if (!into) return undefined
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
    term.onData((text) => send(socket.current, text))
    term.attachCustomKeyEventHandler((event) => {
      if (!event.ctrlKey || event.key !== 'Enter') return true
      const text = event.type === 'keydown' ? nextText.current() : undefined
      if (text !== undefined) send(socket.current, `${text}\r`)
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
  }, [nextText])

  const begin = () => {
    setProblem(undefined)
    terminal.current?.clear()
    const scheme = window.location.protocol === 'https:' ? 'wss' : 'ws'
    const web = new WebSocket(
      `${scheme}://${window.location.host}/api/jobs/${jobId}/console?via=${encodeURIComponent(via)}`,
    )
    socket.current = web
    web.onmessage = (event) => {
      const message = JSON.parse(String(event.data)) as { kind: string; text?: string; problem?: Problem }
      if (message.kind === 'text') terminal.current?.write(message.text ?? '')
      if (message.kind === 'problem') setProblem(message.problem)
      if (message.kind === 'open') {
        setOpen(true)
        terminal.current?.focus()
      }
    }
    web.onclose = () => setOpen(false)
  }
  return {
    box,
    open,
    problem,
    begin,
    close: () => socket.current?.close(),
    type: (text) => {
      send(socket.current, text)
      terminal.current?.focus()
    },
  }
}

const send = (web: WebSocket | undefined, text: string) =>
  web?.readyState === WebSocket.OPEN && web.send(JSON.stringify({ kind: 'type', text }))

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
