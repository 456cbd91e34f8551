import type { AsLeftRecord } from './asLeft'

const HEAD = [
  'part',
  'what',
  'rung',
  'state',
  'evidence',
  'who',
  'when',
  'how',
  'plant or bench',
  'values',
  'reference',
  'origin of the reference',
  'tolerance',
] as const

type Column = (typeof HEAD)[number]
type Row = Readonly<Partial<Record<Column, string | null>>>

/** The record as one table, for spreadsheets: what is open, the plan, the ledger, then every rung and every point. */
export function asLeftTable(record: AsLeftRecord): readonly (readonly (string | null)[])[] {
  const rows: readonly Row[] = [
    {
      part: 'job',
      what: record.job.name,
      state: record.state,
      evidence: `${record.pointsProven} of ${record.pointsToProve} points proven`,
      when: record.madeAt,
      'plant or bench': record.job.mode,
    },
    ...record.open.map((say): Row => ({ part: 'open point', what: say, state: 'open' })),
    ...record.known.map((say): Row => ({ part: 'known', what: say, state: 'decided' })),
    ...record.networks.map(({ name, cidr, gateway, dhcp, reserved }): Row => ({
      part: 'network',
      what: name,
      evidence: [cidr, gateway && `gateway ${gateway}`, dhcp && `DHCP ${dhcp}`, reserved && `reserved ${reserved}`]
        .filter(Boolean)
        .join(', '),
    })),
    ...record.lines.map(({ name, medium, settings }): Row => ({
      part: 'line',
      what: name,
      evidence: [medium, settings].filter(Boolean).join(', '),
    })),
    ...record.askedOfOthers.map(({ what, toWhom, askedOn, answer, answeredOn }): Row => ({
      part: 'asked of others',
      what,
      state: answeredOn === null ? 'open' : 'answered',
      evidence: answer,
      who: toWhom,
      when: answeredOn ?? askedOn,
    })),
    ...record.ledger.map((entry): Row => ({
      part: 'ledger',
      what: entry.what,
      state: entry.backAt === null ? 'open' : 'back',
      evidence: entry.backAt === null ? entry.putBack : `seen back by ${entry.backBy} at ${entry.backAt}`,
      who: entry.who,
      when: entry.at,
      how: entry.kind,
    })),
    ...record.handshakes.flatMap((handshake) => [
      ...handshake.rungs.map((rung): Row => ({
        part: 'handshake',
        what: handshake.name,
        rung: rung.rung,
        state: rung.state,
        evidence: rung.because,
        who: rung.who,
        when: rung.at,
        how: rung.how,
        'plant or bench': rung.mode,
      })),
      ...handshake.points.map((point): Row => ({
        part: 'point',
        what: `${handshake.name}, ${point.point} (${point.tag})`,
        rung: 'Reading',
        state: point.hasToBeProven || point.who === null ? point.state : `${point.state}, need not be proven`,
        evidence: point.because,
        who: point.who,
        when: point.at,
        how: point.how,
        'plant or bench': point.mode,
        values: point.values.map(({ place, shown, how }) => `${place} ${shown}, ${how}`).join('; '),
        reference: point.reference?.shown ?? null,
        'origin of the reference': point.reference?.origin ?? null,
        tolerance: point.tolerance,
      })),
    ]),
  ]
  return [HEAD, ...rows.map((row) => HEAD.map((column) => (column in row ? (row[column] ?? null) : '')))]
}
