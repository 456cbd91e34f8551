import type { AsLeftRecord } from './asLeft'

/** The record as one table, for spreadsheets: what is open, the ledger, then every rung of every handshake. */
export function asLeftTable(record: AsLeftRecord): readonly (readonly (string | null)[])[] {
  const head = ['part', 'what', 'rung', 'state', 'evidence', 'who', 'when', 'how', 'plant or bench']
  const job = ['job', record.job.name, '', record.readyToHandOver ? 'ready to hand over' : 'not ready']
  return [
    head,
    [...job, '', '', record.madeAt, '', record.job.mode],
    ...record.open.map((block) => ['open point', block, '', 'open', '', '', '', '', '']),
    ...record.ledger.map((entry) => [
      'ledger',
      entry.what,
      '',
      entry.backAt === null ? 'open' : 'back',
      entry.backAt === null ? entry.putBack : `seen back by ${entry.backBy} at ${entry.backAt}`,
      entry.who,
      entry.at,
      entry.kind,
      '',
    ]),
    ...record.handshakes.flatMap((handshake) =>
      handshake.rungs.map((rung) => [
        'handshake',
        handshake.name,
        rung.rung,
        rung.state,
        rung.because,
        rung.who,
        rung.at,
        rung.how,
        rung.mode,
      ]),
    ),
  ]
}
