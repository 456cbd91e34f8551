import type { MigrationInterface, QueryRunner } from 'typeorm'

/** What was found, entered and seen in force of the terms gets a table of its own. */
export class Standings1764374400000 implements MigrationInterface {
  readonly name = 'Standings1764374400000'

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "standing" ("id" text PRIMARY KEY, "jobId" text NOT NULL REFERENCES "job"("id"), "subjectId" text NOT NULL,
         "termId" text NOT NULL, "end" text NOT NULL CHECK ("end" IN ('controller', 'device')),
         "standing" text NOT NULL CHECK ("standing" IN ('found', 'entered', 'in-force')), "text" text NOT NULL, "notation" text,
         "how" text NOT NULL, "origin" text NOT NULL, "who" text NOT NULL, "at" integer NOT NULL, "version" integer NOT NULL,
         "removedAt" integer)`,
    )
    await runner.query(`CREATE INDEX "standing_job" ON "standing" ("jobId")`)
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "standing"')
  }
}
