import { Migration } from '@mikro-orm/migrations';

/** Comments on snippets and findings, where mails to a member go, and who is looking at what. */
export class Migration20261201700000 extends Migration {
  override up(): void {
    this.addSql(`alter table "member" add column "mail" text null;`);
    this.addSql(`create table "comment" (
      "id" serial primary key,
      "site_id" int not null constraint "comment_site_id_foreign" references "site" ("id") on update cascade on delete cascade,
      "snippet" varchar(255) null,
      "finding" text null,
      "about" text not null,
      "text" text not null,
      "by" varchar(255) not null,
      "at" timestamptz not null default now(),
      "edited_at" timestamptz null,
      "done_by" varchar(255) null,
      "done_at" timestamptz null
    );`);
    this.addSql(`create index "comment_site_id_id_index" on "comment" ("site_id", "id");`);
    // Who is there is true for seconds: nothing of it is worth keeping through a crash.
    this.addSql(`create unlogged table "presence" (
      "id" uuid primary key,
      "site_id" int not null constraint "presence_site_id_foreign" references "site" ("id") on update cascade on delete cascade,
      "member_id" int not null constraint "presence_member_id_foreign" references "member" ("id") on update cascade on delete cascade,
      "place" varchar(255) not null,
      "is_editing" boolean not null,
      "seen_at" timestamptz not null default now()
    );`);
    this.addSql(`create index "presence_site_id_index" on "presence" ("site_id");`);
    this.addSql(`create index "presence_member_id_index" on "presence" ("member_id");`);
  }
}
