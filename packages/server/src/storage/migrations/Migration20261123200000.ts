import { Migration } from '@mikro-orm/migrations';

/** What bounds a reach beside the pages, since when a snippet is off, and what a site defines for all its reaches. */
export class Migration20261123200000 extends Migration {
  override up(): void {
    this.addSql(`alter table "snippet" add column "limits" jsonb not null default '{}';`);
    this.addSql(
      `alter table "snippet" add column "state_at" timestamptz null, add column "state_by" varchar(255) null;`,
    );
    this.addSql(
      `alter table "site" add column "page_groups" jsonb not null default '[]', add column "consent" jsonb null, add column "fields" jsonb not null default '[]';`,
    );
  }
}
