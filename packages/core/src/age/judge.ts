import { ageAlong, changesFor, type Age, type AgeChange, type AgeStage, type Viewer } from './age'

/** A stage of which somebody may not have said how long it takes. */
export type PlannedStage =
  | { readonly kind: 'looks'; readonly name: string; readonly everyMs: number | undefined }
  | { readonly kind: 'takes'; readonly name: string; readonly mostMs: number | undefined }

export interface AgeJudgement {
  /** `open`: nobody asked for an age, or it is not known and what is known does not decide it. */
  readonly verdict: 'within' | 'late' | 'open'
  /** Of what is known: where something is missing the value is that old at least. */
  readonly age: Age
  readonly missing: readonly string[]
  /** What alone would help most, where it is late and all is known. */
  readonly change: AgeChange | undefined
}

/**
 * Holds the age of a value against what is asked. What nobody said counts as no time: then the age is a least one, which
 * can be too old already and is never young enough.
 *
 * @param askedMs how old it may be; `null`: nobody said
 */
export function judgeAge(planned: readonly PlannedStage[], viewer: Viewer, askedMs: number | null): AgeJudgement {
  const stages = planned.map((stage): AgeStage =>
    stage.kind === 'looks'
      ? { ...stage, everyMs: stage.everyMs ?? 0 }
      : { kind: 'takes', name: stage.name, leastMs: 0, mostMs: stage.mostMs ?? 0 },
  )
  const missing = planned
    .filter((stage) => (stage.kind === 'looks' ? stage.everyMs : stage.mostMs) === undefined)
    .map(({ name }) => name)
  const age = ageAlong(stages, viewer)
  const isLate = askedMs !== null && age.worst > askedMs
  const change = isLate && missing.length === 0 ? changesFor(stages, viewer, askedMs)[0] : undefined
  const verdict = isLate ? 'late' : askedMs === null || missing.length > 0 ? 'open' : 'within'
  return { verdict, age, missing, change }
}
