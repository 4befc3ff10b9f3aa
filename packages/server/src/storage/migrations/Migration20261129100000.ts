import { Migration } from '@mikro-orm/migrations';

/** Visits of a real browser: rounds of them, each visit with what it saw, and its screenshots. */
export class Migration20261129100000 extends Migration {
  override up(): void {
    this.addSql(`
      create table "visit_round" (
        "id" serial primary key,
        "site_id" int not null references "site" ("id") on delete cascade,
        "number" int not null,
        "host" text not null,
        "environment" text not null check ("environment" in ('staging', 'live')),
        "delivery" text not null,
        "release" int,
        "options" json not null,
        "state" text not null default 'waiting' check ("state" in ('waiting', 'running', 'done', 'cancelled', 'failed')),
        "problem" jsonb,
        "browser" text,
        "answer" json,
        "requested_by" text not null,
        "created_at" timestamptz not null default now(),
        "started_at" timestamptz,
        "ended_at" timestamptz,
        "beat_at" timestamptz not null default now(),
        unique ("site_id", "number")
      );
    `);
    this.addSql(`
      create table "visit" (
        "id" serial primary key,
        "round_id" int not null references "visit_round" ("id") on delete cascade,
        "number" int not null,
        "path" text not null,
        "title" text not null,
        "because" text not null,
        "script" json not null,
        "without" json not null default '[]',
        "state" text not null default 'waiting' check ("state" in ('waiting', 'running', 'done', 'failed')),
        "attempts" int not null default 0,
        "failure" text,
        "judged" json,
        "evidence" bytea,
        "started_at" timestamptz,
        "duration_ms" int,
        unique ("round_id", "number")
      );
    `);
    this.addSql(`
      create table "visit_screenshot" (
        "visit_id" int not null references "visit" ("id") on delete cascade,
        "number" int not null,
        "image" bytea not null,
        primary key ("visit_id", "number")
      );
    `);
  }
}
