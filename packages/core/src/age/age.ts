/** One stage on the way of a value. Times in ms. */
export type AgeStage =
  /** It looks every so often: a value waits for the next look. */
  | { readonly kind: 'looks'; readonly name: string; readonly everyMs: number }
  /** It looks always so long after the stage before, because it is locked to it. */
  | { readonly kind: 'follows'; readonly name: string; readonly afterMs: number }
  /** It takes its time: a request and its answer, a conversion. */
  | { readonly kind: 'takes'; readonly name: string; readonly leastMs: number; readonly mostMs: number }

/** When the value is looked at: at any instant, while it is held, or at the moment when it is taken over. */
export type Viewer = 'any-instant' | 'moment-of-use'

export interface AgeShare {
  readonly name: string
  readonly best: number
  readonly typical: number
  readonly worst: number
}

/** Age of a value from its measurement to its viewer, in ms. */
export interface Age {
  readonly best: number
  /** The mean. Waits and times are spread evenly about their middle, so it is the median as well. */
  readonly typical: number
  readonly worst: number
  readonly shares: readonly AgeShare[]
  /** The stage with the largest part of the worst age. */
  readonly dominant: string | undefined
}

/**
 * Adds up the stages. Phases are independent of each other, except where a stage follows the one before. At any instant
 * the last hold counts as well: what was taken over is looked at until the next one replaces it.
 *
 * @source common practice, no source: sampling adds between nothing and one period
 */
export function ageAlong(stages: readonly AgeStage[], viewer: Viewer): Age {
  const own = stages.map((stage): AgeShare => {
    const { name } = stage
    if (stage.kind === 'looks') return { name, best: 0, typical: stage.everyMs / 2, worst: stage.everyMs }
    if (stage.kind === 'follows') return { name, best: stage.afterMs, typical: stage.afterMs, worst: stage.afterMs }
    return { name, best: stage.leastMs, typical: (stage.leastMs + stage.mostMs) / 2, worst: stage.mostMs }
  })
  const held = viewer === 'any-instant' ? holdOf(stages) : undefined
  const shares = held ? [...own, held] : own
  const sum = (part: 'best' | 'typical' | 'worst') => shares.reduce((all, each) => all + each[part], 0)
  const most = shares.reduce<AgeShare | undefined>((a, b) => (a && a.worst >= b.worst ? a : b), undefined)
  return { best: sum('best'), typical: sum('typical'), worst: sum('worst'), shares, dominant: most?.name }
}

/** The last stage that looks now and then holds what it took until it looks again. */
function holdOf(stages: readonly AgeStage[]): AgeShare | undefined {
  const last = stages.filter((stage) => stage.kind === 'looks').at(-1)
  return last && { name: `${last.name}, held`, best: 0, typical: last.everyMs / 2, worst: last.everyMs }
}

/** One change that alone brings the worst age under what is asked, or as near as it can. */
export interface AgeChange {
  readonly name: string
  readonly fromMs: number
  /** What the stage would have to look at; `undefined` where no change of it alone is enough. */
  readonly toMs: number | undefined
  /** What the worst age would be if the stage took no time at all. */
  readonly leftMs: number
}

/** For each stage that looks now and then: what it alone would have to become. The one that helps most first. */
export function changesFor(stages: readonly AgeStage[], viewer: Viewer, askedMs: number): readonly AgeChange[] {
  const { worst } = ageAlong(stages, viewer)
  return stages
    .flatMap((stage, k): readonly AgeChange[] => {
      if (stage.kind !== 'looks') return []
      const without = stages.map((each, at) => (at === k ? { ...stage, everyMs: 0 } : each))
      const leftMs = ageAlong(without, viewer).worst
      // What it is counted for: once, or twice where it also holds.
      const times = (worst - leftMs) / stage.everyMs
      const toMs = leftMs < askedMs ? (askedMs - leftMs) / times : undefined
      return [
        {
          name: stage.name,
          fromMs: stage.everyMs,
          toMs: toMs !== undefined && toMs < stage.everyMs ? toMs : undefined,
          leftMs,
        },
      ]
    })
    .sort((a, b) => a.leftMs - b.leftMs)
}
