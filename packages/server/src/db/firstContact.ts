import type { MigrationInterface, QueryRunner } from 'typeorm'

/** What first contact keeps: the order that is walked, steps, facts about settings, temporary things, runs, keepsakes. */
export class FirstContact1764237600000 implements MigrationInterface {
  readonly name = 'FirstContact1764237600000'

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of statements) await runner.query(statement)
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['keepsake', 'run', 'temporary', 'fact', 'walk_step', 'walk'])
      await runner.query(`DROP TABLE "${table}"`)
  }
}

const OF_JOB = `"jobId" text NOT NULL REFERENCES "job"("id")`

const statements = [
  `CREATE TABLE "walk" ("jobId" text PRIMARY KEY REFERENCES "job"("id"), "settings" text NOT NULL, "order" text NOT NULL,
     "version" integer NOT NULL)`,
  `CREATE TABLE "walk_step" ("id" text PRIMARY KEY, ${OF_JOB}, "stepKey" text NOT NULL, "state" text NOT NULL, "note" text NOT NULL,
     "who" text NOT NULL, "at" integer NOT NULL, "wait" text, "version" integer NOT NULL)`,
  `CREATE UNIQUE INDEX "walk_step_key" ON "walk_step" ("jobId", "stepKey")`,
  `CREATE TABLE "fact" ("id" text PRIMARY KEY, ${OF_JOB}, "deviceId" text NOT NULL REFERENCES "device"("id"), "setting" text NOT NULL,
     "standing" text NOT NULL, "text" text NOT NULL, "how" text NOT NULL, "who" text NOT NULL, "at" integer NOT NULL)`,
  `CREATE TABLE "temporary" ("id" text PRIMARY KEY, ${OF_JOB}, "what" text NOT NULL, "putBack" text NOT NULL, "who" text NOT NULL,
     "at" integer NOT NULL, "backBy" text, "backAt" integer, "version" integer NOT NULL)`,
  `CREATE TABLE "run" ("id" text PRIMARY KEY, ${OF_JOB}, "facts" text NOT NULL, "version" integer NOT NULL, "removedAt" integer)`,
  `CREATE TABLE "keepsake" ("id" text PRIMARY KEY, ${OF_JOB}, "deviceId" text, "kind" text NOT NULL, "title" text NOT NULL,
     "content" text NOT NULL, "who" text NOT NULL, "at" integer NOT NULL)`,
  ...['fact', 'temporary', 'run', 'keepsake'].map((table) => `CREATE INDEX "${table}_job" ON "${table}" ("jobId")`),
]
