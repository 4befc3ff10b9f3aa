import { Migration } from '@mikro-orm/migrations';

/** What snippets may add to a page of a site. */
export class Migration20261129210000 extends Migration {
  override up(): void {
    this.addSql(`alter table "site_watch" add column "budget_kb" int check ("budget_kb" > 0);`);
  }
}
