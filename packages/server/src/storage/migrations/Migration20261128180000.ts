import { Migration } from '@mikro-orm/migrations';

/** Pages that somebody hands over, for surveys of what no server serves. */
export class Migration20261128180000 extends Migration {
  override up(): void {
    this.addSql(`
      create table "given_page" (
        "site_id" int not null references "site" ("id") on delete cascade,
        "set" uuid not null,
        "path" varchar(2000) not null,
        "status" int not null,
        "headers" jsonb not null,
        "digest" char(32) not null,
        "body" bytea not null,
        "given_at" timestamptz not null default now(),
        primary key ("site_id", "set", "path")
      );
    `);
  }
}
