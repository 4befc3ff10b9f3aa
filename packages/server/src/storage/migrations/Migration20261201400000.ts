import { Migration } from '@mikro-orm/migrations';

/** Four eyes: sites whose releases somebody else approves, the requests, and links for whoever only approves. */
export class Migration20261201400000 extends Migration {
  override up(): void {
    this.addSql(`
      create table "approval_rule" (
        "site_id" int primary key references "site" ("id") on delete cascade,
        "since" timestamptz not null default now(),
        "set_by" text not null
      );
    `);
    this.addSql(`
      create table "approval" (
        "id" serial primary key,
        "site_id" int not null references "site" ("id") on delete cascade,
        "digest" char(64) not null,
        "release" int null,
        "message" text not null,
        "requested_by" text not null,
        "requested_at" timestamptz not null default now(),
        "decision" text null check ("decision" in ('approved', 'declined', 'withdrawn')),
        "decided_by" text null,
        "decided_at" timestamptz null,
        "note" text not null default '',
        "published" int null
      );
    `);
    this.addSql(`create index "approval_site_id_index" on "approval" ("site_id", "digest");`);
    this.addSql(`
      create table "approval_link" (
        "id" serial primary key,
        "approval_id" int not null references "approval" ("id") on delete cascade,
        "secret_hash" char(64) not null unique,
        "name" text not null,
        "made_by" text not null,
        "until" timestamptz not null
      );
    `);
    this.addSql(`create index "approval_link_approval_id_index" on "approval_link" ("approval_id");`);
  }
}
