import { evidenceOfOlder, type OlderEvidence } from '@calm/contract/jobFile'
import type { MigrationInterface, QueryRunner } from 'typeorm'
import { onlyAdded } from './onlyAdded'

/**
 * Evidence gets a subject and facts, and lies with the job; sentences of older programs stay as text facts. Terms and
 * points can be taken out of sight and brought back. New fields of rows need nothing here: see `fields.ts`.
 */
export class Ground1764324000000 implements MigrationInterface {
  readonly name = 'Ground1764324000000'

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of statements) await runner.query(statement)
    await moveEvidence(runner)
    for (const statement of [`DROP TABLE "evidence_before"`, ...onlyAdded('evidence')]) await runner.query(statement)
  }

  async down(): Promise<void> {
    throw new Error('Facts cannot be put back into sentences of the older form. Use a copy of the file from before.')
  }
}

const OF_JOB = `"jobId" text NOT NULL REFERENCES "job"("id")`

const statements = [
  ...['update', 'delete'].map((change) => `DROP TRIGGER "evidence_no_${change}"`),
  `DROP INDEX "evidence_handshake"`,
  `ALTER TABLE "evidence" RENAME TO "evidence_before"`,
  `CREATE TABLE "evidence" ("id" text PRIMARY KEY, ${OF_JOB}, "subjectKind" text NOT NULL, "subjectId" text NOT NULL, "rung" text NOT NULL,
     "verdict" text NOT NULL CHECK ("verdict" IN ('proven', 'at-odds')), "who" text NOT NULL, "at" integer NOT NULL, "how" text NOT NULL,
     "mode" text NOT NULL, "facts" text NOT NULL, "basis" text NOT NULL)`,
  `CREATE INDEX "evidence_job" ON "evidence" ("jobId", "at")`,
  `ALTER TABLE "term" RENAME TO "term_before"`,
  `CREATE TABLE "term" ("id" text PRIMARY KEY, "handshakeId" text NOT NULL REFERENCES "handshake"("id"), "termId" text NOT NULL,
     "end" text NOT NULL CHECK ("end" IN ('controller', 'device')), "text" text NOT NULL, "notation" text, "origin" text NOT NULL,
     "version" integer NOT NULL, "removedAt" integer)`,
  `INSERT INTO "term" SELECT "id", "handshakeId", "termId", "end", "text", "notation", "origin", "version", NULL FROM "term_before"`,
  `DROP TABLE "term_before"`,
  `CREATE INDEX "term_handshake" ON "term" ("handshakeId")`,
  `CREATE UNIQUE INDEX "term_once" ON "term" ("handshakeId", "termId", "end") WHERE "removedAt" IS NULL`,
]

/** A row of evidence as it was, with the handshake and the point that it was of. */
interface Before extends Omit<OlderEvidence, 'basis' | 'detail'> {
  readonly basis: string
  readonly detail: string
  readonly handshakeId: string
  readonly jobId: string
  readonly deviceId: string
  readonly pointId: string | null
}

async function moveEvidence(runner: QueryRunner): Promise<void> {
  const rows: readonly Before[] = await runner.query(
    `SELECT e.*, h."jobId", h."deviceId",
       (SELECT p."id" FROM "point" p WHERE p."handshakeId" = h."id" ORDER BY p."position" LIMIT 1) AS "pointId"
     FROM "evidence_before" e JOIN "handshake" h ON h."id" = e."handshakeId" ORDER BY e."at", e.rowid`,
  )
  for (const row of rows) {
    const { handshakeId, deviceId, pointId, jobId, basis, detail, id, rung, verdict, who, at, how, mode, value } = row
    const older: OlderEvidence = {
      ...{ id, rung, verdict, who, at, how, mode, value },
      basis: JSON.parse(basis),
      detail: JSON.parse(detail),
    }
    const { subject, facts } = evidenceOfOlder(older, { id: handshakeId, deviceId, pointId: pointId ?? undefined })
    await runner.query(
      `INSERT INTO "evidence" ("id", "jobId", "subjectKind", "subjectId", "rung", "verdict", "who", "at", "how", "mode", "facts", "basis")
       VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
      [id, jobId, subject.kind, subject.id, rung, verdict, who, at, how, mode, JSON.stringify(facts), basis],
    )
  }
}
