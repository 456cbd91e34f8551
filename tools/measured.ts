/** One line of the printed table. */
export interface Line {
  readonly work: string
  readonly measured: string
  readonly target: string
}

/** The middle of several runs, in milliseconds. */
export function middle(runs: number, work: () => unknown): number {
  work()
  const times = Array.from({ length: runs }, () => {
    const start = performance.now()
    work()
    return performance.now() - start
  })
  return times.sort((a, b) => a - b)[Math.floor(runs / 2)] ?? NaN
}
