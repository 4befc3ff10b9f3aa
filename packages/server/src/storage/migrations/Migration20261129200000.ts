import { Migration } from '@mikro-orm/migrations';

/** Sites are watched: what their settings say, how snippets stood over time, what was told to whom. */
export class Migration20261129200000 extends Migration {
  override up(): void {
    this.addSql(`
      create table "site_watch" (
        "site_id" int primary key references "site" ("id") on delete cascade,
        "cron" text,
        "zone" text not null,
        "next_at" timestamptz,
        "after_publishing" text not null check ("after_publishing" in ('nothing', 'look', 'put-back')),
        "needs_rehearsal" boolean not null default false,
        "mail_to" jsonb not null default '[]',
        "set_by" text not null,
        "set_at" timestamptz not null default now()
      );
    `);
    this.addSql(`create index "site_watch_next_index" on "site_watch" ("next_at");`);
    this.addSql(`
      create table "webhook" (
        "id" serial primary key,
        "site_id" int not null references "site" ("id") on delete cascade,
        "url" text not null,
        "sealed" text not null,
        "made_by" text not null,
        "made_at" timestamptz not null default now()
      );
    `);
    this.addSql(`create index "webhook_site_index" on "webhook" ("site_id");`);
    this.addSql(`
      create table "standing" (
        "id" serial primary key,
        "site_id" int not null references "site" ("id") on delete cascade,
        "host" text not null,
        "round" int not null,
        "release" int,
        "at" timestamptz not null,
        "snippet" text not null,
        "name" text not null,
        "state" text not null check ("state" in ('well', 'lost', 'waiting', 'left-out')),
        "losses" jsonb not null,
        "message" text not null
      );
    `);
    this.addSql(`create index "standing_site_host_round_index" on "standing" ("site_id", "host", "round");`);
    this.addSql(`
      create table "told_standing" (
        "site_id" int not null references "site" ("id") on delete cascade,
        "host" text not null,
        "snippet" text not null,
        "losses" jsonb not null,
        "round" int not null,
        primary key ("site_id", "host", "snippet")
      );
    `);
    this.addSql(`
      create table "notice" (
        "id" serial primary key,
        "public_id" text not null unique,
        "site_id" int not null references "site" ("id") on delete cascade,
        "channel" text not null check ("channel" in ('webhook', 'mail')),
        "target" text not null,
        "webhook_id" int references "webhook" ("id") on delete set null,
        "subject" text not null,
        "body" text not null,
        "state" text not null default 'waiting' check ("state" in ('waiting', 'sent', 'failed')),
        "attempts" int not null default 0,
        "next_at" timestamptz default now(),
        "answer" text,
        "created_at" timestamptz not null default now(),
        "sent_at" timestamptz
      );
    `);
    this.addSql(`create index "notice_site_index" on "notice" ("site_id", "id");`);
    this.addSql(`create index "notice_webhook_index" on "notice" ("webhook_id");`);
    this.addSql(`create index "notice_next_index" on "notice" ("next_at") where "state" = 'waiting';`);
    this.addSql(`alter table "visit_round" add column "digest" text, add column "is_well" boolean;`);
  }
}
