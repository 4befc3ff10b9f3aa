import { Migration } from '@mikro-orm/migrations';

/** When surveys of a host begin by themselves. */
export class Migration20261128150000 extends Migration {
  override up(): void {
    this.addSql(`
      create table "survey_schedule" (
        "site_id" int not null,
        "host" varchar(255) not null,
        "cron" text not null,
        "zone" text not null,
        "options" jsonb not null,
        "next_at" timestamptz null,
        "set_by" varchar(255) not null,
        "set_at" timestamptz not null default now(),
        constraint "survey_schedule_pkey" primary key ("site_id", "host"),
        constraint "survey_schedule_site_id_foreign" foreign key ("site_id") references "site" ("id") on update cascade on delete cascade
      );
    `);
    this.addSql(`create index "survey_schedule_next_index" on "survey_schedule" ("next_at");`);
  }
}
