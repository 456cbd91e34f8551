import { wordText } from '@calm/core/modbus'
import { hopsShown, type HopFinding, type PathSeen } from '@calm/core/path'
import { byteOrders, dataTypes, formatNumber } from '@calm/core/values'
import type { ReactNode } from 'react'
import { cn, Glyph } from '../../ui'

const glyphs = {
  'as-planned': 'proven',
  explained: 'at-odds',
  unexplained: 'at-odds',
  'not-conclusive': 'not-started',
} as const

interface StripProps {
  readonly path: PathSeen
  readonly findings: readonly HopFinding[]
  readonly decimals: number
  /** What stands in a hop's place for its number: where somebody types what it shows. */
  readonly fields: Readonly<Record<string, ReactNode>>
}

/** A point on its way, hop by hop from left to right: raw words, what they mean, and what is made of them in between. */
export function PathStrip({ path, findings, decimals, fields }: StripProps) {
  const shown = hopsShown(path)
  const unit = path.unit === '' ? '' : ` ${path.unit}`
  return (
    <ol aria-label="Hops" className="flex overflow-x-auto border-y border-rule max-phone:flex-col">
      {shown.map((hop, k) => {
        const finding = findings.find(({ name }) => name === hop.name)
        const isAtOdds = finding?.verdict === 'explained' || finding?.verdict === 'unexplained'
        return (
          <li
            key={hop.name}
            className={cn(
              'min-w-40 flex-1 px-3 py-2',
              k > 0 && 'border-l border-rule-strong',
              isAtOdds && 'bg-odds-wash',
            )}
          >
            <p className="note">{k === 0 ? 'registers' : `→ ${between(path, k)}`}</p>
            <p className="flex items-center gap-1.5 font-heavy">
              {finding && <Glyph state={glyphs[finding.verdict]} size={14} />}
              <span className="wrap-anywhere">{hop.name}</span>
            </p>
            {hop.words && <p className="font-typed">{hop.words.map(wordText).join(' ')}</p>}
            {fields[hop.name] ?? (
              <p className="tabular-nums">
                {hop.value === undefined ? 'not seen' : `${formatNumber(hop.value, decimals)}${unit}`}
              </p>
            )}
          </li>
        )
      })}
    </ol>
  )
}

/** What is done between a hop and the one before it. */
function between({ hops, format, scale, offset }: PathSeen, k: number): string {
  const [before, hop] = [hops[k - 1], hops[k]]
  if (hop?.kind === 'words') return 'copied'
  if (before?.kind !== 'words') return 'shown'
  const line = `${scale === 1 ? '' : `, × ${scale}`}${offset === 0 ? '' : `, + ${offset}`}`
  return `${dataTypes[format.type].name}, ${byteOrders[format.order].name}${line}`
}
