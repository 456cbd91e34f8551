import {
  decodeTcpResponse,
  encodeTcpRequest,
  TcpFramer,
  type ModbusRequest,
  type TcpRequest,
  type TcpUnit,
} from '@calm/core/modbus'
import type { Protocol } from './protocol'
import { TransactionNumbers } from './transactionNumbers'

export interface TcpAsk {
  readonly unit: TcpUnit
  readonly request: ModbusRequest
}

/** Modbus over TCP: an answer is known by its transaction number, so a late one harms nobody. */
export function modbusTcp(random?: (end: number) => number): Protocol<TcpAsk> {
  const transactions = new TransactionNumbers(random)
  return {
    framer: () => new TcpFramer(),
    question: ({ unit, request }) => {
      const sent: TcpRequest = { transaction: transactions.next(), unit, request }
      return {
        bytes: encodeTcpRequest(sent),
        judge: (frame) => {
          const answer = decodeTcpResponse(sent, frame)
          if (answer.ok) return { kind: 'answer', response: answer.value }
          const kind = answer.refusal.reason === 'wrong-transaction' ? 'foreign' : 'rejected'
          return { kind, rejection: answer.refusal }
        },
      }
    },
    quietMs: 0,
    lateLooksRight: false,
    afterBroken: 'reopen',
  }
}
