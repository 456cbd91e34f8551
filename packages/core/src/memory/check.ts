import { cellsText, isPlaced, liesIn, shared, type Memory, type Partition, type Placed } from './blocks'

export type MemoryFindingKind = 'clash' | 'link' | 'never-filled' | 'outside' | 'status-outside'

/** Something about the blocks of a memory. A link is none of the bad ones: it is named, and what it brings with it. */
export interface MemoryFinding {
  readonly kind: MemoryFindingKind
  readonly severity: 'stop' | 'warn' | 'note'
  readonly blocks: readonly string[]
  readonly cells: Partition
  readonly say: string
}

/**
 * What blocks do to one another. Two that fill the same cells clash: whichever came last is there. A command that sends
 * what another one fills is a link: it sends what stood there before the first good answer, and goes on sending the
 * last value when its source is gone.
 */
export function checkMemory({ read, write, blocks }: Memory): readonly MemoryFinding[] {
  const placed = blocks.filter(isPlaced)
  const fillers = placed.filter(({ use }) => use !== 'send')
  const senders = placed.filter(({ use }) => use === 'send')
  const findings: MemoryFinding[] = []
  fillers.forEach((one, k) => {
    for (const other of fillers.slice(k + 1)) {
      const cells = shared(one, other)
      if (cells)
        findings.push({
          kind: 'clash',
          severity: 'stop',
          blocks: [one.id, other.id],
          cells,
          say: `${one.name} and ${other.name} both fill ${cellsText(cells)}: whichever came last is there.`,
        })
    }
    if (!liesIn(one, read)) findings.push(outside(one, read))
  })
  for (const sender of senders) findings.push(...aboutSender(sender, fillers, write))
  return findings
}

function outside(block: Placed, read: Partition): MemoryFinding {
  const isStatus = block.use === 'status'
  return {
    kind: isStatus ? 'status-outside' : 'outside',
    severity: 'stop',
    blocks: [block.id],
    cells: block,
    say: `${block.name} takes ${cellsText(block)}; the controller reads ${cellsText(read)}${isStatus ? ', so it never sees these errors' : ''}.`,
  }
}

function aboutSender(sender: Placed, fillers: readonly Placed[], write: Partition): readonly MemoryFinding[] {
  const findings: MemoryFinding[] = []
  for (const filler of fillers) {
    const cells = shared(sender, filler)
    if (cells)
      findings.push({
        kind: 'link',
        severity: 'warn',
        blocks: [filler.id, sender.id],
        cells,
        say: `${sender.name} sends what ${filler.name} fills (${cellsText(cells)}): before its first good answer it sends what stood there, and it goes on sending the last value when that source is gone.`,
      })
  }
  for (const cells of openCells(sender, [...fillers, write])) {
    findings.push({
      kind: 'never-filled',
      severity: 'stop',
      blocks: [sender.id],
      cells,
      say: `${sender.name} sends ${cellsText(cells)}, which nothing fills and the controller does not write.`,
    })
  }
  return findings
}

/** The stretches of a block that none of the others covers. */
function openCells(block: Placed, covers: readonly Partition[]): readonly Partition[] {
  const open: { first: number; count: number }[] = []
  for (let cell = block.first; cell < block.first + block.count; cell += 1) {
    if (covers.some(({ first, count }) => cell >= first && cell < first + count)) continue
    const last = open.at(-1)
    if (last && last.first + last.count === cell) last.count += 1
    else open.push({ first: cell, count: 1 })
  }
  return open
}
