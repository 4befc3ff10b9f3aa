import { Migration } from '@mikro-orm/migrations';

/** Backups that the installation makes of itself: when, for whom and how many are kept; and those that lie on a machine. */
export class Migration20261201500000 extends Migration {
  override up(): void {
    this.addSql(`
      create table "backup_rule" (
        "id" int primary key check ("id" = 1),
        "is_on" boolean not null,
        "cron" text not null,
        "zone" text not null,
        "keep" jsonb not null,
        "recipients" jsonb not null,
        "next_at" timestamptz null,
        "set_by" text not null,
        "set_at" timestamptz not null default now()
      );
    `);
    this.addSql(`
      create table "backup" (
        "id" serial primary key,
        "state" text not null default 'waiting' check ("state" in ('waiting', 'running', 'done', 'failed')),
        "by" text null,
        "machine" text null,
        "file" text null,
        "made_at" timestamptz null,
        "bytes" bigint null,
        "sha256" char(64) null,
        "done_rows" int not null default 0,
        "all_rows" int null,
        "recipients" int not null default 0,
        "problem" text null,
        "asked_at" timestamptz not null default now(),
        "beat_at" timestamptz not null default now(),
        "ended_at" timestamptz null
      );
    `);
    this.addSql(
      `create index "backup_state_index" on "backup" ("state") where "state" in ('waiting', 'running');`,
    );
    // Every night, until somebody says otherwise: whoever has never thought of it is who needs it most.
    this.addSql(`
      insert into "backup_rule" ("id", "is_on", "cron", "zone", "keep", "recipients", "set_by")
      values (1, true, '17 3 * * *', 'UTC', '{"days": 7, "weeks": 4, "months": 6}', '[]', '');
    `);
  }
}
