import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Ports get their hardware address. */
export class PortMac1764064800000 implements MigrationInterface {
  readonly name = 'PortMac1764064800000'

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "port" ADD COLUMN "mac" text')
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "port" DROP COLUMN "mac"')
  }
}
