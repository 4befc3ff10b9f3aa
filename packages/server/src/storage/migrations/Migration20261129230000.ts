import { Migration } from '@mikro-orm/migrations';

/** What other hosts get in the visits of a site. */
export class Migration20261129230000 extends Migration {
  override up(): void {
    this.addSql(`alter table "site_watch"
      add column "third_parties" text not null default 'real'
        check ("third_parties" in ('real', 'stand-ins', 'blocked')),
      add column "host_answers" jsonb not null default '[]';`);
  }
}
