import { Migration } from '@mikro-orm/migrations';

/** What planned surveys find is told, once. */
export class Migration20261129220000 extends Migration {
  override up(): void {
    this.addSql(`alter table "survey" add column "told_at" timestamptz;`);
  }
}
