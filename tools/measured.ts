/** One line of the printed table. */
export interface Line {
  readonly work: string
  readonly measured: string
  readonly target: string
}
