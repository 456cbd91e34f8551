import { wordText } from '@calm/core/modbus'
import { signedWord } from '@calm/core/message'
import { cn, Scroll, tip } from '../../ui'
import type { Look } from './looks'

interface WordsTableProps {
  readonly look: Look
  /** Addresses that the plan reads, and that the chosen explanation reads. */
  readonly planned: readonly number[]
  readonly explained: readonly number[]
  readonly onWord: (at: number, word: number) => void
}

/** The registers of one look, as hexadecimal, without a sign, with one, and bit by bit; a bit is turned by pressing it. */
export function WordsTable({ look, planned, explained, onWord }: WordsTableProps) {
  return (
    <Scroll label="Registers, bit by bit" className="max-h-[46vh]">
      <table className="[&_th]:font-normal w-full border-collapse text-note [&_td]:border-t [&_td]:border-rule [&_td]:py-0.5 [&_td]:pr-2 [&_th]:py-0.5 [&_th]:pr-2 [&_th]:text-left [&_th]:text-ink-soft">
        <caption className="sr-only">Registers of the look</caption>
        <thead>
          <tr>
            <th>Address</th>
            <th>Hex</th>
            <th>Decimal</th>
            <th>Signed</th>
            <th>Bits 15 to 0</th>
          </tr>
        </thead>
        <tbody className="font-typed">
          {look.words.map((word, k) => {
            const address = look.first + k
            const isPlanned = planned.includes(address)
            const isExplained = explained.includes(address)
            return (
              <tr
                key={address}
                data-register={address}
                className={cn(isPlanned && 'bg-ground', isExplained && 'bg-proven-wash font-heavy')}
              >
                <td>
                  {address}
                  {isPlanned && <span className="pl-1.5 font-read text-ink-soft">plan</span>}
                  {isExplained && <span className="pl-1.5 font-read">taken</span>}
                </td>
                {word === undefined ? (
                  <td colSpan={4} className="font-read text-ink-soft">
                    not there
                  </td>
                ) : (
                  <>
                    <td>{wordText(word)}</td>
                    <td>{word}</td>
                    <td>{signedWord(word)}</td>
                    <td>
                      <Bits word={word} address={address} onWord={(next) => onWord(k, next)} />
                    </td>
                  </>
                )}
              </tr>
            )
          })}
        </tbody>
      </table>
    </Scroll>
  )
}

function Bits({ word, address, onWord }: { word: number; address: number; onWord: (word: number) => void }) {
  return (
    <span className="inline-flex" role="group" aria-label={`Bits of address ${address}`}>
      {Array.from({ length: 16 }, (_, k) => 15 - k).map((bit) => {
        const isOn = ((word >>> bit) & 1) === 1
        return (
          <button
            key={bit}
            type="button"
            tabIndex={bit === 15 ? 0 : -1}
            aria-pressed={isOn}
            aria-label={`Bit ${bit} of address ${address}`}
            {...tip(`Bit ${bit}`)}
            className={cn(
              'w-2.5 text-center hover:bg-ground-press',
              bit % 4 === 0 && bit > 0 && 'mr-1',
              !isOn && 'text-ink-faint',
            )}
            onClick={() => onWord(word ^ (1 << bit))}
            onKeyDown={(event) => {
              const by =
                event.key === 'ArrowRight'
                  ? 'nextElementSibling'
                  : event.key === 'ArrowLeft'
                    ? 'previousElementSibling'
                    : undefined
              const next = by && event.currentTarget[by]
              if (next instanceof HTMLElement) next.focus()
            }}
          >
            {isOn ? 1 : 0}
          </button>
        )
      })}
    </span>
  )
}
