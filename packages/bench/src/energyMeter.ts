import { encodeValue, type RawValue, type ValueFormat } from '@calm/core/values'
import { answerIdentity } from './identity'
import { answerFromMap, type RegisterEntry } from './registerMap'
import type { StandInDefinition } from './standIn'

/** What the meter measures at one moment. Values fit together: powers follow from voltages, currents and angles. */
export interface MeterValues {
  readonly voltages: readonly [number, number, number]
  readonly currents: readonly [number, number, number]
  /** Kilowatts per phase. The second current transformer is mounted the wrong way round, so its power is negative. */
  readonly powers: readonly [number, number, number]
  readonly totalPower: number
  readonly powerFactor: number
  readonly frequency: number
  /** Kilowatt-hours since the meter was set up. */
  readonly energy: number
}

/**
 * The meter's values as a function of time alone: slow waves of different length, so that they move, never repeat soon
 * and never jump.
 * @param seconds since the start of the stand-in
 */
export function meterValuesAt(seconds: number): MeterValues {
  const wave = (period: number, phase: number) => Math.sin((2 * Math.PI * seconds) / period + phase)
  const voltages = [0, 2.1, 4.2].map((phase) => 230.4 + 0.35 * wave(97, phase) + 0.12 * wave(23, 2 * phase))
  const currents = [0, 1.1, 2.3].map((phase) => 14.2 + 0.9 * wave(61, phase) + 0.2 * wave(17, phase))
  const cosPhi = 0.86 + 0.01 * wave(131, 0)
  const direction = [1, -1, 1]
  const powers = voltages.map((voltage, k) => ((direction[k] ?? 1) * voltage * (currents[k] ?? 0) * cosPhi) / 1000)
  return {
    voltages: triple(voltages),
    currents: triple(currents),
    powers: triple(powers),
    totalPower: powers.reduce((sum, power) => sum + power, 0),
    powerFactor: cosPhi,
    frequency: 50 + 0.02 * wave(43, 1),
    energy: 4211.7 + (seconds * 2.8) / 3600,
  }
}

const triple = ([a = 0, b = 0, c = 0]: readonly number[]): readonly [number, number, number] => [a, b, c]

/** The float registers, in order: protocol address and where the value comes from. */
const FLOATS: readonly (readonly [number, (values: MeterValues) => number])[] = [
  [0, (values) => values.voltages[0]],
  [2, (values) => values.voltages[1]],
  [4, (values) => values.voltages[2]],
  [6, (values) => values.currents[0]],
  [8, (values) => values.currents[1]],
  [10, (values) => values.currents[2]],
  [12, (values) => values.powers[0]],
  [14, (values) => values.powers[1]],
  [16, (values) => values.powers[2]],
  [18, (values) => values.totalPower],
  [20, (values) => values.powerFactor],
  [22, (values) => values.frequency],
  [24, (values) => values.energy],
]

/** The energy meter EM-501: input registers from 30001, float 32, high word first; energy in Wh as uint 32 at 30027. */
export function energyMeter(clock: () => number): StandInDefinition {
  const start = clock()
  const now = () => meterValuesAt((clock() - start) / 1000)
  const words = (raw: RawValue, format: ValueFormat) => {
    const encoded = encodeValue(raw, format)
    if (!encoded.ok) throw new RangeError(encoded.refusal.what)
    return encoded.value
  }
  const entries: readonly RegisterEntry[] = [
    ...FLOATS.map(([address, pick]): RegisterEntry => ({
      table: 'input-registers',
      address,
      words: () => words({ kind: 'number', value: pick(now()) }, { type: 'float32', order: 'ABCD' }),
    })),
    {
      table: 'input-registers',
      address: 26,
      words: () => words({ kind: 'number', value: Math.floor(now().energy * 1000) }, { type: 'uint32', order: 'ABCD' }),
    },
    {
      table: 'input-registers',
      address: 40,
      words: () => words({ kind: 'text', value: 'EM-501 0000417' }, { type: 'ascii', order: 'ABCD', registers: 8 }),
    },
  ]
  const identity = [
    { id: 0, text: 'Sample maker' },
    { id: 1, text: 'EM-3F' },
    { id: 2, text: '1.4' },
    { id: 4, text: 'Three-phase energy meter (stand-in)' },
    { id: 5, text: 'EM-501' },
  ]
  return {
    tag: 'EM-501',
    what: 'Energy meter',
    plannedAddress: '10.20.40.50',
    units: [1],
    answer: (request, faults) =>
      request.code === 43 ? answerIdentity(identity, request) : answerFromMap(entries, request, faults),
    state: () => `${now().voltages[0].toFixed(1)} V, ${now().totalPower.toFixed(2)} kW`,
  }
}
