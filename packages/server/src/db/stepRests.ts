import type { MigrationInterface, QueryRunner } from 'typeorm'

/** A step that was checked keeps what the check rested on. */
export class StepRests1764633600000 implements MigrationInterface {
  readonly name = 'StepRests1764633600000'

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "walk_step" ADD COLUMN "rests" text')
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "walk_step" DROP COLUMN "rests"')
  }
}
