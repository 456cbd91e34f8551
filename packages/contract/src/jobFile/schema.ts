import { rowKinds, type RowTable } from '@calm/core/job'
import Joi from 'joi'
import { evidenceBefore4, evidenceInFile } from '../evidenceRow'
import { id, instant, line, rung, version } from '../fields'
import { fieldsInFile } from '../rowSchemas'
import { walkInFile } from '../walk'
import { JOB_FORMAT, JOB_FORMAT_VERSION } from './jobFile'

const row = (table: RowTable, lists: Joi.SchemaMap = {}) =>
  Joi.object({
    id: id.required(),
    version: version.required(),
    ...fieldsInFile(table),
    ...(rowKinds[table].stamped && { who, at: instant.required() }),
    ...lists,
  })

const who = line.max(60).required()
const list = (item: Joi.Schema, most: number) => Joi.array().items(item).max(most).required()
/** Lists that files of version 1 do not have. */
const later = (item: Joi.Schema, most: number) => Joi.array().items(item).max(most).default([])

const decision = Joi.object({
  id: id.required(),
  rung: rung.required(),
  state: Joi.valid('parked', 'not-apply', 'waiting', 'in-hand', 'none').required(),
  reason: line.max(400).allow('').required(),
  who,
  at: instant.required(),
})

const forced = Joi.object({
  id: id.required(),
  version: version.required(),
  where: line.required(),
  value: line.required(),
  who,
  at: instant.required(),
  releasedBy: line.allow(null).required(),
  releasedAt: instant.allow(null).required(),
})

/** Up to version 3 evidence lay in its handshake; since then all of it lies in the job. */
const sinceEvidenceHasSubjects = (version: number) => version >= 4

const job = (version: number) =>
  row('job', {
    networks: list(row('network'), 200),
    lines: later(row('line'), 500),
    devices: list(row('device', { ports: list(row('port'), 20), nodes: later(row('node'), 40) }), 5_000),
    handshakes: list(
      row('handshake', {
        terms: list(row('term'), 200),
        points: list(row('point'), 10_000),
        decisions: list(decision, 10_000),
        ...(!sinceEvidenceHasSubjects(version) && { evidence: list(evidenceBefore4, 10_000) }),
      }),
      5_000,
    ),
    forced: list(forced, 5_000),
    kinds: later(row('kind'), 200),
    requests: later(row('request'), 5_000),
    acceptances: later(row('acceptance'), 10_000),
    standings: later(row('standing'), 100_000),
    ...(sinceEvidenceHasSubjects(version) && { evidence: list(evidenceInFile, 200_000) }),
  }).required()

const hash = Joi.string().pattern(/^[0-9a-f]{64}$/, 'a SHA-256 in small hexadecimal letters')
const sealedEntry = Joi.object({
  jobId: id.required(),
  at: instant.required(),
  who: Joi.string().max(200).allow('').required(),
  what: Joi.string().max(20_000).allow('').required(),
  detail: Joi.string().max(2_000_000).allow('').required(),
  previousHash: hash.required(),
  hash: hash.required(),
})

const versions = Array.from({ length: JOB_FORMAT_VERSION }, (_, k) => k + 1)

/** The whole file, field by field; a field that is not documented is a problem, so that nothing is lost silently. */
export const jobFileSchema = Joi.object({
  format: Joi.valid(JOB_FORMAT).required(),
  version: Joi.valid(...versions).required(),
  exportedAt: Joi.string().isoDate().required(),
  firstContact: walkInFile,
  log: Joi.array().items(sealedEntry).max(100_000),
  seal: hash,
  job: Joi.when('version', {
    switch: versions.map((is) => ({ is, then: job(is) })),
    otherwise: Joi.any(),
  }),
})
