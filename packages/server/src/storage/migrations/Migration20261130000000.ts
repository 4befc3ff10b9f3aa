import { Migration } from '@mikro-orm/migrations';

/** Where a session was opened, so that its owner can tell it from the others. */
export class Migration20261130000000 extends Migration {
  override up(): void {
    this.addSql(`alter table "credential"
      add column "opened_from" varchar(255) null,
      add column "device" text null check ("device" in ('phone', 'tablet', 'desktop'));`);
  }
}
