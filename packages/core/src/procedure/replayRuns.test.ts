import { ipv4, prefixLength } from '../address'
import { sampleDevice, sampleJob, sampleLine } from '../job/fixtures'
import { shippedKinds } from '../kind'
import {
  blankWalk,
  bringUpJobOf,
  consequencesOf,
  heldBackBy,
  isSettled,
  latestFact,
  planWalk,
  refusedNote,
  runFits,
  runFor,
  shippedRuns,
  walkOf,
  type RunFacts,
  type Stop,
  type WalkRecord,
  type WalkStep,
} from '.'

/** A job with one device that a run is for: of a kind that takes it by itself, of one that may, or set in its way. */
function jobFor(run: RunFacts) {
  const kind =
    shippedKinds.find(
      (each) => each.defaultAddress.kind !== 'none' && runFor(each.id, each.setting, shippedRuns) === run,
    ) ??
    shippedKinds.find((each) => runFor(each.id, each.setting, shippedRuns) === run) ??
    shippedKinds.find((each) => runFits(run, each.id, each.setting)) ??
    shippedKinds.find((each) => run.onDemand && run.kinds.includes(each.id)) ??
    shippedKinds.find((each) => each.id === 'meter')
  if (!kind) throw new Error('no kind')
  const noAddress = kind.defaultAddress.kind === 'none'
  const setting = runFits(run, kind.id, kind.setting) ? null : (run.ways[0] ?? null)
  // What is begun beside the order is begun at a device that is in service.
  const far =
    run.onDemand === 'only'
      ? '10.20.40.21'
      : kind.defaultAddress.kind === 'fixed' && setting === null
        ? kind.defaultAddress.address
        : '10.20.40.160'
  const device = sampleDevice('DEV-1', '10.20.40.21', {
    kind: kind.id,
    unitId: 3,
    isolation: 'Q1',
    asFound: far,
    setting,
    // Asked for, so that every check of a run is a step of it.
    firmwareRelation: 'at-least',
    firmwareNeeded: '1',
    firmwareFound: '2',
    hostName: 'dev-1',
    namePlaces: [{ where: 'In the server', text: 'dev-1' }],
  })
  // What has no address before it is set, and is set over IP, has none of its own: it hangs behind another.
  const place = run.kinds.length === 0 || noAddress ? run.places?.[0] : undefined
  const bare = { ...device, ports: noAddress || place ? [] : device.ports }
  if (!place) return sampleJob({ devices: [bare] })
  const medium = ({ rack: 'backplane', bus: 'field-bus', line: 'rs-485-two-wire' } as const)[place]
  const node = { id: 'node', lineId: 'L', name: '', node: 3, isMaster: false, position: 0, version: 1 }
  return sampleJob({ devices: [{ ...bare, behindId: 'REL-1', nodes: [node] }], lines: [sampleLine({ medium })] })
}

/** Of every decision the first choice, or the last. */
type Choice = 0 | -1

/** What somebody at the panel would type for a step. */
function typedFor({ step }: WalkStep, choice: Choice): string {
  if (step.kind === 'decide') return step.choices?.at(choice)?.say ?? ''
  if (step.kind !== 'record') return ''
  return (
    { mac: '02:5E:0B:10:7C:11', 'as-found': '10.20.40.160', 'unit-id': '3', node: '3', measured: '48 V, tester' }[
      step.record as string
    ] ?? 'as on the label'
  )
}

const STEPS_AT_MOST = 120

describe('every run that ships replays to its end with typed answers', () => {
  const both = shippedRuns.flatMap((run) => {
    const decides = run.steps.some(({ kind }) => kind === 'decide')
    return (decides ? ([0, -1] as const) : ([0] as const)).map((choice) => [run.id, choice, run] as const)
  })
  test.each(both)('%s, choice %i of each decision', (id, choice, run) => {
    const job = jobFor(run)
    const [device] = job.devices
    if (!device) throw new Error('no device')
    const beside = run.onDemand === 'only' ? [{ id: 'R1', deviceId: device.id, runId: id }] : []
    let record: WalkRecord = {
      ...blankWalk,
      settings: { ...blankWalk.settings, runs: { [device.id]: id }, onDemand: beside },
    }
    const laptop = [{ address: ipv4('10.20.40.5'), prefix: prefixLength(24) }]
    const given = bringUpJobOf(job, record, laptop)
    const plan = planWalk(given, [], [], 1)
    if (!('answer' in plan)) throw new Error('no order')
    expect(plan.leftOut).toEqual([])
    record = { ...record, order: plan.answer.actions }
    const walk = () => walkOf(job, record, record.order, bringUpJobOf(job, record, laptop))
    const warned = new Set<string>()
    const seen = new Set<string>()
    for (let count = 0; ; count += 1) {
      const stop = walk().find((each) => each.state !== 'settled')
      const step = stop?.steps.find((each) => !isSettled(each))
      if (!stop || !step) break
      if (count > STEPS_AT_MOST) throw new Error(`not at the end after ${STEPS_AT_MOST} steps`)
      step.step.covers?.forEach((act) => warned.add(act))
      for (const act of step.step.acts ?? [])
        expect({ stop: stop.title, step: step.step.id, act, warned: warned.has(act) }).toMatchObject({ warned: true })
      // A move of the laptop is two steps.
      seen.add(step.step.id.replace(/-(set|seen)$/, (end) => (step.step.laptop ? '' : end)))
      record = settled(job, record, stop, step, { at: count, choice })
    }
    const done = walk()
    expect(done.filter((stop) => stop.onDemand !== null)).toHaveLength(beside.length)
    const steps = done.flatMap((stop) => stop.steps)
    expect(steps.length).toBeGreaterThan(4)
    // Nothing of the run was lost on the way: every step of it was come to.
    expect(
      run.steps.filter((step) => !seen.has(step.id) && !skipped(run, step.id, seen, choice)).map((step) => step.id),
    ).toEqual([])
    if (device.ports.length > 0) expect(latestFact(record, device.id, 'address', 'verified')?.text).toBe('10.20.40.21')
  })
})

/** Steps that this one device does not need: units behind it, where it has none; setting what a lease gives. */
function skipped(run: RunFacts, id: string, seen: ReadonlySet<string>, choice: Choice): boolean {
  const step = run.steps.find((each) => each.id === id)
  // This one has nothing behind it, hangs behind nothing, talks to nobody and stands in no rack: real jobs have a test of their own.
  const ofOthers = ['units-behind', 'rack-codes', 'relay-firmware', 'served-verified', 'controller-sees']
  if (ofOthers.includes(step?.check ?? '')) return true
  // Its kind has no address of its own out of the box: the other way through the run; the kind with one has a test of its own.
  if (step?.onlyWhere === 'factory-known' || step?.onlyWhere === 'not-addressed') return true
  const decision = run.steps.find((each) => each.id === step?.onlyIf?.decided)
  if (decision && decision.choices?.at(choice)?.say !== step?.onlyIf?.as) return true
  const set = run.steps.some((each) => each.phase === 'set' && seen.has(each.id))
  return (step?.phase === 'set' || step?.phase === 'effective') && !set
}

function settled(
  job: ReturnType<typeof jobFor>,
  record: WalkRecord,
  stop: Stop,
  step: WalkStep,
  { at, choice }: { readonly at: number; readonly choice: Choice },
): WalkRecord {
  const note = typedFor(step, choice)
  expect(heldBackBy(stop, step.key)).toBeUndefined()
  expect(refusedNote(step, note)).toBeUndefined()
  const { facts } = consequencesOf(job, stop, step, note)
  const who = 'R. Osei'
  return {
    ...record,
    steps: [
      ...record.steps,
      { id: step.key, stepKey: step.key, state: 'done', note, who, at, wait: null, rests: null, version: 1 },
    ],
    facts: [...record.facts, ...facts.map((fact, n) => ({ ...fact, id: `${at}-${n}`, who, at }))],
  }
}

test('every run in which a firmware is written down holds it against what is asked for, afterwards', () => {
  const recording = shippedRuns.filter(({ steps }) => steps.some(({ record }) => record === 'firmware'))
  expect(recording.length).toBeGreaterThan(4)
  for (const run of recording) {
    const recorded = run.steps.findIndex(({ record }) => record === 'firmware')
    const checked = run.steps.findIndex(({ check }) => check === 'firmware')
    expect({ run: run.id, isChecked: checked > recorded }).toEqual({ run: run.id, isChecked: true })
  }
})
