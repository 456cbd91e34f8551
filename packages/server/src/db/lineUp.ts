import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Lines and nodes, what a panel is planned with, the job's own kinds, requests to others, findings that stand accepted. */
export class LineUp1764151200000 implements MigrationInterface {
  readonly name = 'LineUp1764151200000'

  async up(runner: QueryRunner): Promise<void> {
    for (const [table, column, type] of columns)
      await runner.query(`ALTER TABLE "${table}" ADD COLUMN "${column}" ${type}`)
    for (const statement of tables) await runner.query(statement)
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['acceptance', 'request', 'kind', 'node', 'line']) await runner.query(`DROP TABLE "${table}"`)
    await runner.query('DROP INDEX "device_tag"')
    for (const [table, column] of columns) await runner.query(`ALTER TABLE "${table}" DROP COLUMN "${column}"`)
  }
}

const BLANK = `text NOT NULL DEFAULT ''`

const columns: readonly (readonly [table: string, column: string, type: string])[] = [
  ['job', 'addressRules', `text NOT NULL DEFAULT '[]'`],
  ['network', 'school', `text NOT NULL DEFAULT 'static'`],
  ['port', 'school', 'text'],
  ['port', 'removedAt', 'integer'],
  ['device', 'place', BLANK],
  ['device', 'isolation', BLANK],
  ['device', 'orderCode', BLANK],
  ['device', 'orderCodeFound', BLANK],
  ['device', 'serialNumber', BLANK],
  ['device', 'firmwareFound', BLANK],
  ['device', 'firmwareNeeded', BLANK],
  ['device', 'firmwareRelation', `text NOT NULL DEFAULT 'any'`],
  // Without a link in the database: SQLite cannot drop a linked column, and the store checks it.
  ['device', 'firmwareOfId', 'text'],
  ['device', 'hostName', BLANK],
  ['device', 'namePlaces', `text NOT NULL DEFAULT '[]'`],
  ['device', 'setting', 'text'],
  ['device', 'effective', 'text'],
  ['device', 'startUpSeconds', 'integer'],
  ['device', 'handsOnSeconds', 'integer'],
]

const tables = [
  `CREATE TABLE "line" ("id" text PRIMARY KEY, "jobId" text NOT NULL REFERENCES "job"("id"), "name" text NOT NULL, "medium" text NOT NULL,
     "family" text NOT NULL, "settings" text NOT NULL, "version" integer NOT NULL, "removedAt" integer)`,
  `CREATE TABLE "node" ("id" text PRIMARY KEY, "deviceId" text NOT NULL REFERENCES "device"("id"), "lineId" text NOT NULL REFERENCES "line"("id"),
     "name" text NOT NULL, "node" integer, "isMaster" boolean NOT NULL, "version" integer NOT NULL, "removedAt" integer)`,
  `CREATE TABLE "kind" ("id" text PRIMARY KEY, "jobId" text NOT NULL REFERENCES "job"("id"), "facts" text NOT NULL, "version" integer NOT NULL,
     "removedAt" integer)`,
  `CREATE TABLE "request" ("id" text PRIMARY KEY, "jobId" text NOT NULL REFERENCES "job"("id"), "about" text NOT NULL, "what" text NOT NULL,
     "toWhom" text NOT NULL, "deviceIds" text NOT NULL, "askedOn" text, "dueOn" text, "answer" text NOT NULL, "answeredOn" text,
     "version" integer NOT NULL, "removedAt" integer)`,
  `CREATE TABLE "acceptance" ("id" text PRIMARY KEY, "jobId" text NOT NULL REFERENCES "job"("id"), "rule" text NOT NULL, "subjectId" text NOT NULL,
     "found" text NOT NULL, "reason" text NOT NULL, "who" text NOT NULL, "at" integer NOT NULL, "version" integer NOT NULL, "removedAt" integer)`,
  ...['line', 'kind', 'request', 'acceptance'].map((table) => `CREATE INDEX "${table}_job" ON "${table}" ("jobId")`),
  `CREATE INDEX "node_device" ON "node" ("deviceId")`,
  `CREATE INDEX "device_tag" ON "device" ("jobId", "tag")`,
]
