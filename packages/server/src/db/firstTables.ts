import type { MigrationInterface, QueryRunner } from 'typeorm'
import { onlyAdded } from './onlyAdded'

/** The first tables. What is recorded (evidence, decisions, log) can only be added, never changed or taken away. */
export class FirstTables1764028800000 implements MigrationInterface {
  readonly name = 'FirstTables1764028800000'

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of statements) await runner.query(statement)
  }

  async down(runner: QueryRunner): Promise<void> {
    const tables = [
      'setting',
      'log_entry',
      'forced',
      'decision',
      'evidence',
      'point',
      'term',
      'handshake',
      'port',
      'device',
      'network',
      'job',
    ]
    for (const table of tables) await runner.query(`DROP TABLE "${table}"`)
  }
}

const statements = [
  `CREATE TABLE "job" ("id" text PRIMARY KEY, "name" text NOT NULL, "place" text NOT NULL,
     "mode" text NOT NULL CHECK ("mode" IN ('plant', 'bench')), "version" integer NOT NULL, "createdAt" integer NOT NULL, "removedAt" integer)`,
  `CREATE TABLE "network" ("id" text PRIMARY KEY, "jobId" text NOT NULL REFERENCES "job"("id"), "name" text NOT NULL, "cidr" text NOT NULL,
     "gateway" text, "vlan" integer, "dhcp" text NOT NULL, "reserved" text NOT NULL, "version" integer NOT NULL, "removedAt" integer)`,
  `CREATE TABLE "device" ("id" text PRIMARY KEY, "jobId" text NOT NULL REFERENCES "job"("id"), "position" real NOT NULL, "tag" text NOT NULL,
     "what" text NOT NULL, "kind" text NOT NULL, "behindId" text REFERENCES "device"("id"), "unitId" integer, "asFound" text NOT NULL,
     "note" text NOT NULL, "version" integer NOT NULL, "removedAt" integer)`,
  `CREATE TABLE "port" ("id" text PRIMARY KEY, "deviceId" text NOT NULL REFERENCES "device"("id"), "name" text NOT NULL,
     "networkId" text REFERENCES "network"("id"), "address" text, "prefix" integer, "gateway" text, "tcpPort" integer NOT NULL, "version" integer NOT NULL)`,
  `CREATE TABLE "handshake" ("id" text PRIMARY KEY, "jobId" text NOT NULL REFERENCES "job"("id"), "position" real NOT NULL, "name" text NOT NULL,
     "controllerId" text NOT NULL REFERENCES "device"("id"), "deviceId" text NOT NULL REFERENCES "device"("id"), "version" integer NOT NULL, "removedAt" integer)`,
  `CREATE TABLE "term" ("id" text PRIMARY KEY, "handshakeId" text NOT NULL REFERENCES "handshake"("id"), "termId" text NOT NULL,
     "end" text NOT NULL CHECK ("end" IN ('controller', 'device')), "text" text NOT NULL, "notation" text, "origin" text NOT NULL, "version" integer NOT NULL,
     UNIQUE ("handshakeId", "termId", "end"))`,
  `CREATE TABLE "point" ("id" text PRIMARY KEY, "handshakeId" text NOT NULL REFERENCES "handshake"("id"), "position" real NOT NULL, "tag" text NOT NULL,
     "quantity" text NOT NULL, "unit" text NOT NULL, "decimals" integer NOT NULL, "served" text, "shownAt" text NOT NULL, "reference" text,
     "tolerance" text NOT NULL, "version" integer NOT NULL)`,
  `CREATE TABLE "evidence" ("id" text PRIMARY KEY, "handshakeId" text NOT NULL REFERENCES "handshake"("id"), "rung" text NOT NULL,
     "verdict" text NOT NULL CHECK ("verdict" IN ('proven', 'at-odds')), "who" text NOT NULL, "at" integer NOT NULL, "how" text NOT NULL,
     "value" text NOT NULL, "basis" text NOT NULL, "mode" text NOT NULL, "detail" text NOT NULL)`,
  `CREATE TABLE "decision" ("id" text PRIMARY KEY, "handshakeId" text NOT NULL REFERENCES "handshake"("id"), "rung" text NOT NULL,
     "state" text NOT NULL, "reason" text NOT NULL, "who" text NOT NULL, "at" integer NOT NULL)`,
  `CREATE TABLE "forced" ("id" text PRIMARY KEY, "jobId" text NOT NULL REFERENCES "job"("id"), "where" text NOT NULL, "value" text NOT NULL,
     "who" text NOT NULL, "at" integer NOT NULL, "releasedBy" text, "releasedAt" integer, "version" integer NOT NULL)`,
  `CREATE TABLE "log_entry" ("sequence" integer PRIMARY KEY AUTOINCREMENT, "jobId" text NOT NULL, "at" integer NOT NULL, "who" text NOT NULL,
     "what" text NOT NULL, "detail" text NOT NULL, "previousHash" text NOT NULL, "hash" text NOT NULL)`,
  `CREATE TABLE "setting" ("key" text PRIMARY KEY, "value" text NOT NULL)`,
  ...['network', 'device', 'handshake', 'forced', 'log_entry'].map(
    (table) => `CREATE INDEX "${table}_job" ON "${table}" ("jobId")`,
  ),
  `CREATE INDEX "port_device" ON "port" ("deviceId")`,
  ...['term', 'point', 'evidence', 'decision'].map(
    (table) => `CREATE INDEX "${table}_handshake" ON "${table}" ("handshakeId")`,
  ),
  ...['evidence', 'decision', 'log_entry'].flatMap(onlyAdded),
]
