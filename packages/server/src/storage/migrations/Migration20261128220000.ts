import { Migration } from '@mikro-orm/migrations';

/** Links to the blocks to paste; of their secrets only the digest is kept. */
export class Migration20261128220000 extends Migration {
  override up(): void {
    this.addSql(`
      create table "handover" (
        "id" serial primary key,
        "site_id" int not null references "site" ("id") on delete cascade,
        "secret_hash" char(64) not null unique,
        "environment" text not null check ("environment" in ('staging', 'live')),
        "made_by" text not null,
        "made_at" timestamptz not null default now(),
        "until" timestamptz not null,
        "used_at" timestamptz
      );
    `);
    this.addSql(`create index "handover_site_id_index" on "handover" ("site_id");`);
  }
}
