import { type RungState, rungStateWords } from '@calm/core/ladder'
import { cn } from './cn'
import { stateText } from './stateColours'

/** The six states as two halves: apart, closing, back to back, meshed, slipped, held apart. */
const paths: Readonly<Record<Exclude<RungState, 'not-apply'>, React.ReactNode>> = {
  'not-started': (
    <path
      d="M5.2 4.25A7.5 7.5 0 0 0 5.2 15.75M14.8 4.25A7.5 7.5 0 0 1 14.8 15.75"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.8"
      strokeLinecap="round"
    />
  ),
  'in-hand': (
    <>
      <path d="M9.4 2.2A7.8 7.8 0 0 0 9.4 17.8Z" fill="currentColor" />
      <path
        d="M13.8 4.25A7.2 7.2 0 0 1 13.8 15.75"
        fill="none"
        stroke="currentColor"
        strokeWidth="1.8"
        strokeLinecap="round"
      />
    </>
  ),
  waiting: (
    <>
      <path
        d="M4.4 2.4A8.9 8.9 0 0 1 4.4 17.6M15.6 2.4A8.9 8.9 0 0 0 15.6 17.6M3 2.4H17M3 17.6H17"
        fill="none"
        stroke="currentColor"
        strokeWidth="1.8"
        strokeLinecap="round"
      />
      <path d="M8 13.2H12L14.4 17H5.6ZM7.6 6.6H12.4L11.6 9.4H8.4Z" fill="currentColor" />
    </>
  ),
  proven: (
    <>
      <path d="M11.5 2.14V9.15H7V17.42A8 8 0 0 1 11.5 2.14Z" fill="currentColor" />
      <path d="M13 2.58V10.85H8.5V17.86A8 8 0 0 0 13 2.58Z" fill="currentColor" />
    </>
  ),
  'at-odds': (
    <>
      <path d="M8.9 0.9A7 7 0 0 0 8.9 14.9Z" fill="currentColor" />
      <path d="M11.1 5.1A7 7 0 0 1 11.1 19.1Z" fill="currentColor" />
    </>
  ),
  parked: (
    <>
      <path
        d="M4.6 5A7.5 7.5 0 0 0 4.6 15M15.4 5A7.5 7.5 0 0 1 15.4 15"
        fill="none"
        stroke="currentColor"
        strokeWidth="1.8"
        strokeLinecap="round"
      />
      <path d="M6 8.5H14V11.5H6Z" fill="currentColor" />
    </>
  ),
}

/** A state's glyph. With `label` it speaks for itself; without, a word stands beside it. */
export function Glyph({ state, size = 16, label = false }: { state: RungState; size?: number; label?: boolean }) {
  return (
    <svg
      className={cn('block', stateText[state])}
      width={size}
      height={size}
      viewBox="0 0 20 20"
      {...(label ? { role: 'img', 'aria-label': rungStateWords[state] } : { 'aria-hidden': true })}
    >
      {paths[state === 'not-apply' ? 'parked' : state]}
    </svg>
  )
}
