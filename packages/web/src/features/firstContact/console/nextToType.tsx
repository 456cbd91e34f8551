import { menuValues } from '@calm/core/menu'
import { isTypeable, type WalkStep } from '@calm/core/procedure'
import { Button, cn, Problems } from '../../../ui'
import { ProblemError } from '../../../api'
import { MenuAnswers } from '../walk'
import type { Console } from './useConsole'

/** When no prompt comes, in this order. @source common practice, no source */
const NO_PROMPT = [
  'The port: unplug the adapter and see which port goes.',
  'The settings of the line: baud rate, data bits, parity, stop bits, no flow control.',
  'The cable: null-modem or straight. Try the other one.',
  'Power of the card: see its lamp; it may still be starting.',
]

interface NextToTypeProps {
  readonly session: Console
  readonly step: WalkStep | undefined
  /** How many of the texts of the step went out by hand. */
  readonly sent: number
  readonly onSend: (index: number) => void
}

/** What the walk has to type, beside the console: prompt by prompt where the menu is described, else text by text. */
export function NextToType({ session, step, sent, onSend }: NextToTypeProps) {
  return (
    <aside aria-label="Next to type">
      <h3 className="mt-2.5 mb-1 font-heavy">Next to type</h3>
      {!step && <p className="note">The walk has nothing to type.</p>}
      {step?.menu && <InMenu session={session} step={step} />}
      {step && !step.menu && <ByHand session={session} step={step} sent={sent} onSend={onSend} />}
      <ReadSoFar session={session} />
      <h3 className="mt-2.5 mb-1 font-heavy">No prompt comes?</h3>
      <ol className="list-decimal pl-4.5 note">
        {NO_PROMPT.map((text) => (
          <li key={text}>{text}</li>
        ))}
      </ol>
      <p className="note">The text of the session is kept when it is closed. Passwords are masked.</p>
    </aside>
  )
}

function InMenu({ session, step }: { readonly session: Console; readonly step: WalkStep }) {
  const { menu } = session
  const mine = menu?.stepKey === step.key ? menu : undefined
  const isRunning = session.open && (mine?.state === 'working' || mine?.state === 'log-in')
  return (
    <>
      <p className="note">{step.step.say}</p>
      {step.menu && <MenuAnswers answers={step.menu.answers} answered={isRunning ? mine.sent : 0} />}
      {isRunning && mine.state === 'log-in' && (
        <p role="status">
          It asks for “{mine.prompt}”: type that in the console. It goes on by itself when you are in.
        </p>
      )}
      {mine?.state === 'stopped' && <Problems reason={new ProblemError(422, [mine.problem])} />}
      <div className="mt-2 flex flex-wrap items-center gap-2">
        {isRunning ? (
          <Button onClick={session.stopTask}>Stop</Button>
        ) : (
          <Button look="act" disabled={!session.open} onClick={() => session.doStep(step.key)}>
            Answer each prompt
          </Button>
        )}
        <span className="note">
          <kbd>Ctrl Enter</kbd> in the console
        </span>
      </div>
      <p className="mt-2 note">Each answer goes out at its own prompt. At any other prompt nothing is sent.</p>
    </>
  )
}

function ByHand({ session, step, sent, onSend }: NextToTypeProps & { readonly step: WalkStep }) {
  return (
    <>
      <p className="note">{step.step.say}</p>
      <ul>
        {(step.step.type ?? []).map((text, index) => (
          <li key={`${text}${index}`} className="flex items-center justify-between gap-2 py-1">
            <code
              className={cn('font-typed text-lead font-medium', index === sent && 'rounded-sm bg-ground px-2 py-0.5')}
            >
              {text}
            </code>
            <Button disabled={!session.open || !isTypeable(text)} onClick={() => onSend(index)}>
              Send
            </Button>
          </li>
        ))}
      </ul>
      <p className="note">
        The menu of this kind is not described: see what it asks before you send. <kbd>Ctrl Enter</kbd> in the console
        sends the next one.
      </p>
    </>
  )
}

/** What the console showed by itself: already kept, so nobody types it. */
function ReadSoFar({ session: { read } }: { readonly session: Console }) {
  if (read.size === 0) return null
  return (
    <>
      <h3 className="mt-2.5 mb-1 font-heavy">Read off the console</h3>
      <dl className="grid grid-cols-[auto_minmax(0,1fr)] gap-x-3" aria-label="Read off the console">
        {[...read].map(([is, text]) => (
          <div key={is} className="contents">
            <dt className="text-ink-soft">{menuValues[is as keyof typeof menuValues]}</dt>
            <dd className="font-typed">{text}</dd>
          </div>
        ))}
      </dl>
    </>
  )
}
