import type { PackingRule } from '../cyclic'
import type { ChecksumId, PadAt } from '../message'

/** Image of a head with modules, and how it travels. Words of 16 bits; open where nobody said it. */
export interface ImagePlan {
  readonly packing: PackingRule
  readonly statusWords: number
  readonly controlWords: number
  /** Words that one transfer carries, where that is less than the image. */
  readonly transferWords: number | null
  readonly transferMs: number | null
  /** Words of an image that is the same for all heads, whatever is plugged. */
  readonly fixedWords: number | null
}

/** Memory of the gateway or module between the ends, in words. */
export interface MemoryPlan {
  /** What the controller reads of it and writes to it; open where nobody said it. */
  readonly readFirst: number | null
  readonly readCount: number | null
  readonly writeFirst: number | null
  readonly writeCount: number | null
  /** Blocks begin at multiples of this. */
  readonly boundary: number
  /** Words left free behind each block. */
  readonly room: number
  /** Words of status that come with each block. */
  readonly states: number
  /** Where the error block lies; open where there is none. */
  readonly errors: number | null
}

/** What a value waits for on its way, ms; open where nobody said it, or where there is no such thing. */
export interface PathTimes {
  readonly answerMs: number | null
  readonly gatewayMs: number | null
  readonly taskMs: number | null
  readonly displayMs: number | null
}

/** How a device that is sent commands is talked to. */
export interface MessagePlan {
  readonly check: ChecksumId
  readonly padAt: PadAt
  readonly headerBytes: number
  readonly endBytes: number
  /** Fields of the answer, one line each. */
  readonly layout: string
  /** Rate and frame of the line: `9600 8N1`. */
  readonly line: string
  readonly pollMs: number | null
  readonly deviceMs: number | null
  /** Silence by which a packet ends. */
  readonly gapMs: number | null
  readonly bufferBytes: number | null
}

/** Marks of the tables as they were taken last; blank where one never was. */
export interface TablesTaken {
  readonly commands: string
  readonly gateway: string
  readonly map: string
  readonly tags: string
}

/** A path of which nobody said anything. */
export const blankPath = {
  modules: '',
  image: {
    packing: 'bytes',
    statusWords: 0,
    controlWords: 0,
    transferWords: null,
    transferMs: null,
    fixedWords: null,
  } as ImagePlan,
  memory: {
    readFirst: null,
    readCount: null,
    writeFirst: null,
    writeCount: null,
    boundary: 1,
    room: 0,
    states: 0,
    errors: null,
  } as MemoryPlan,
  times: { answerMs: null, gatewayMs: null, taskMs: null, displayMs: null } as PathTimes,
  message: {
    check: 'none',
    padAt: 'end',
    headerBytes: 0,
    endBytes: 0,
    layout: '',
    line: '',
    pollMs: null,
    deviceMs: null,
    gapMs: null,
    bufferBytes: null,
  } as MessagePlan,
  tablesTaken: { commands: '', gateway: '', map: '', tags: '' } as TablesTaken,
} as const
