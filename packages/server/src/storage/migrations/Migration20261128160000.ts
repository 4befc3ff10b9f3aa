import { Migration } from '@mikro-orm/migrations';

/** A survey may wait for another of its site: of a host's two sides one is asked after the other. */
export class Migration20261128160000 extends Migration {
  override up(): void {
    this.addSql(`alter table "survey" add column "after" int null;`);
  }
}
