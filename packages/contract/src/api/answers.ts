import type { CheckResult } from '@calm/core/checks'
import type { HeardBy, Hit } from '@calm/core/discovery'
import type { Mode } from '@calm/core/job'
import type { Rung } from '@calm/core/ladder'
import type { Picture, PictureComparison, SweepLine } from '@calm/core/procedure'
import type { BenchLaptopView, FrontView } from '../live'

/** What the list of jobs says of one. */
export interface JobSummary {
  readonly id: string
  readonly name: string
  readonly place: string
  readonly mode: Mode
  readonly deviceCount: number
  readonly handshakeCount: number
  readonly provenCount: number
  readonly neededCount: number
  /** The ladder of the job: over all handshakes that need a rung, how many have it. */
  readonly ladder: readonly {
    readonly rung: Rung
    readonly name: string
    readonly proven: number
    readonly atOdds: number
    readonly needed: number
  }[]
  /** What would be done next, in one sentence, and the stage where. */
  readonly next: { readonly say: string; readonly stage: string }
  /** When somebody last worked on it. */
  readonly workedOn: number
}

/** What came with a job file and proves nothing here until a lead takes it over. */
export interface FromFile {
  readonly who: string
  readonly at: number
  /** The name of the job in the file, and when the file was written. */
  readonly name: string
  readonly exportedAt: string
  readonly evidenceCount: number
  readonly acceptanceCount: number
  readonly decisionCount: number
  /** Why it cannot be taken over; `null` where the chain of the file is whole. */
  readonly broken: string | null
  readonly takenOver: { readonly who: string; readonly at: number } | null
}

/** The log of a job, and whether its chain holds. */
export interface JobLog {
  readonly entries: readonly {
    readonly sequence: number
    readonly at: number
    readonly who: string
    readonly what: string
    readonly hash: string
  }[]
  readonly whole: boolean
  readonly brokenAt: number | null
  readonly notes: readonly string[]
}

/** Something was added, and this is its id. */
export interface Added {
  readonly id: string
}

/** What a record of evidence came to. */
export interface Recorded extends Added {
  readonly verdict: 'proven' | 'at-odds'
}

export type CheckAnswer = CheckResult

/** One way in which somebody may be heard, and whether it is open here. */
export interface ListenWay {
  readonly by: HeardBy
  readonly open: boolean
  /** Where it is open, or why it is not. */
  readonly note: string
}

/** How far listening has come, and who was heard. */
export interface ListenView {
  /** Milliseconds since 1970. */
  readonly startedAt: number
  readonly seconds: number
  readonly of: number
  /** Times that everybody was asked, and datagrams that were sent. */
  readonly rounds: number
  readonly sent: number
  /** Answers that could not be read, that answered another question, or that were more than is kept of one sender: nobody is shown for them. */
  readonly refused: number
  readonly state: 'listening' | 'over' | 'stopped'
  readonly ways: readonly ListenWay[]
  readonly hits: readonly Hit[]
}

/** How far a search has come, and who answered. */
export interface SweepView {
  readonly cidr: string
  readonly looked: number
  readonly total: number
  readonly done: boolean
  readonly milliseconds: number
  readonly packetsPerSecond: number
  readonly lines: readonly SweepLine[]
}

/** What was found at one address. */
export interface ProbeView {
  readonly address: string
  readonly servedAt: string
  readonly ports: readonly { readonly port: number; readonly connection: 'open' | 'refused' | 'silent' }[]
  readonly answers: boolean
  readonly identities: readonly string[]
}

/** Unit ids behind a gateway that answered, and how far the search came. */
export interface UnitsFound {
  readonly units: readonly { readonly unit: number; readonly identity: string }[]
  readonly askedTo: number
  readonly complete: boolean
}

export interface KeepsakeHead {
  readonly id: string
  readonly deviceId: string | null
  readonly kind: string
  readonly title: string
  readonly who: string
  readonly at: number
}

/** The stand-ins’ fronts, and the laptop of the bench. */
export interface Fronts {
  readonly fronts: readonly FrontView[]
  readonly laptop: BenchLaptopView | null
}

/** Serial ports of this laptop, and why there may be none. */
export interface SerialPorts {
  readonly ports: readonly { readonly path: string; readonly about: string }[]
  readonly note: string
}

/** What a picture shows, and what is otherwise than in the one before. */
export interface PictureTaken {
  readonly picture: Picture
  /** With the before-picture that is kept; `null` where there is none, or none was asked for. */
  readonly comparison: PictureComparison | null
}
