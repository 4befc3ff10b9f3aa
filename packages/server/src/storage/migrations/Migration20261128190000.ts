import { Migration } from '@mikro-orm/migrations';

/** The boxes of a site builder, and what somebody has pasted into them. */
export class Migration20261128190000 extends Migration {
  override up(): void {
    this.addSql(`
      create table "paste_boxes" (
        "site_id" int not null primary key references "site" ("id") on delete cascade,
        "boxes" jsonb not null
      );
    `);
    this.addSql(`
      create table "pasted_block" (
        "site_id" int not null references "site" ("id") on delete cascade,
        "box" text not null,
        "page" varchar(2000) not null,
        "digest" char(12) not null,
        "release" int not null,
        "pasted_by" text not null,
        "pasted_at" timestamptz not null default now(),
        primary key ("site_id", "box", "page")
      );
    `);
  }
}
