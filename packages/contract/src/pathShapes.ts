import { checksums, type ChecksumId } from '@calm/core/message'
import { packingRules, type PackingRule } from '@calm/core/cyclic'
import type { ImagePlan, MemoryPlan, MessagePlan, PathTimes, TablesTaken } from '@calm/core/job'
import Joi from 'joi'
import { line } from './fields'

const whole = (most: number, least = 0) => Joi.number().integer().strict().min(least).max(most).required()
const orOpen = (schema: Joi.NumberSchema) => schema.allow(null)
const milliseconds = orOpen(Joi.number().strict().min(0).max(3_600_000).required())

const words = whole(100_000)
const mark = line.max(40).allow('').required()

/** What a handshake keeps of the way between its ends. */
export const pathShapes = {
  image: Joi.object<ImagePlan, true>({
    packing: Joi.string()
      .valid(...(Object.keys(packingRules) as PackingRule[]))
      .required(),
    statusWords: whole(500),
    controlWords: whole(500),
    transferWords: orOpen(whole(65_536, 1)),
    transferMs: orOpen(whole(3_600_000, 1)),
    fixedWords: orOpen(whole(2_000, 1)),
  }),
  memory: Joi.object<MemoryPlan, true>({
    readFirst: orOpen(words),
    readCount: orOpen(whole(100_000, 1)),
    writeFirst: orOpen(words),
    writeCount: orOpen(words),
    boundary: whole(100_000, 1),
    room: words,
    states: words,
    errors: orOpen(words),
  }),
  times: Joi.object<PathTimes, true>({
    answerMs: milliseconds,
    gatewayMs: milliseconds,
    taskMs: milliseconds,
    displayMs: milliseconds,
  }),
  message: Joi.object<MessagePlan, true>({
    check: Joi.string()
      .valid(...(Object.keys(checksums) as ChecksumId[]))
      .required(),
    padAt: Joi.string().valid('end', 'start').required(),
    headerBytes: whole(250),
    endBytes: whole(250),
    layout: Joi.string().trim().max(8_000).allow('').required(),
    line: line.max(40).allow('').required(),
    pollMs: orOpen(whole(60_000)),
    deviceMs: orOpen(whole(60_000)),
    gapMs: orOpen(whole(60_000)),
    bufferBytes: orOpen(whole(65_536, 1)),
  }),
  'tables-taken': Joi.object<TablesTaken, true>({ commands: mark, gateway: mark, map: mark, tags: mark }),
} as const
