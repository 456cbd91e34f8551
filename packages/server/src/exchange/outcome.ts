import type { ModbusResponse, Rejection } from '@calm/core/modbus'

/** What came of one request. Only `answered` carries something that may become a value. */
export type Outcome =
  | { readonly kind: 'answered'; readonly response: ModbusResponse; readonly trace: Trace }
  | { readonly kind: 'rejected'; readonly rejection: Rejection; readonly trace: Trace }
  | { readonly kind: 'no-connection'; readonly reason: string; readonly trace: Trace }
  | { readonly kind: 'no-answer'; readonly reason: string; readonly trace: Trace }
  | { readonly kind: 'closed'; readonly reason: string; readonly trace: Trace }
  | { readonly kind: 'cancelled'; readonly trace: Trace }

/** The bytes of one request and its answer, and how long it took. */
export interface Trace {
  readonly sent: string
  readonly received: string
  readonly milliseconds: number
  /** Why an answer on this line is no proof yet, in a sentence; left out where the line was quiet. */
  readonly unsure?: string
}

/** An outcome in one sentence and what to look at next. */
export function explainOutcome(outcome: Exclude<Outcome, { kind: 'answered' }>): {
  readonly what: string
  readonly hint: string
} {
  switch (outcome.kind) {
    case 'rejected':
      return {
        what: `An answer came that does not fit: ${outcome.rejection.what} Found ${outcome.rejection.found}, expected ${outcome.rejection.expected}.`,
        hint:
          outcome.rejection.reason === 'wrong-unit'
            ? 'Look at the unit id, and for a second device at this address.'
            : 'Something else than the planned device may answer here.',
      }
    case 'no-connection':
      return {
        what: `No connection: ${outcome.reason}`,
        hint: 'Look at power, cable, address and port, in that order.',
      }
    case 'no-answer':
      return { what: outcome.reason, hint: 'It takes the connection but stays silent: suspect the unit id first.' }
    case 'closed':
      return { what: outcome.reason, hint: 'It may have no connection left, or may not speak Modbus on this port.' }
    case 'cancelled':
      return { what: 'Not asked any more.', hint: '' }
  }
}
