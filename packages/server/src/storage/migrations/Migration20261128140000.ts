import { Migration } from '@mikro-orm/migrations';

/** The scripts and style sheets that surveyed pages load, as each survey got them: what changed at a provider is told from these. */
export class Migration20261128140000 extends Migration {
  override up(): void {
    // One worker asks for a survey's files; where it does not come back by then, another does.
    this.addSql(`alter table "survey" add column "files_until" timestamptz null;`);
    this.addSql(`
      create table "survey_file" (
        "survey_id" int not null,
        "address" text not null,
        "kind" text not null check ("kind" in ('script', 'style')),
        "status" int null,
        "digest" char(32) null,
        "bytes" int null,
        "content_type" text null,
        "etag" text null,
        "last_modified" text null,
        "cache_control" text null,
        "sent_cookies" jsonb not null default '[]',
        "reading" jsonb null,
        constraint "survey_file_pkey" primary key ("survey_id", "address"),
        constraint "survey_file_survey_id_foreign" foreign key ("survey_id") references "survey" ("id") on update cascade on delete cascade
      );
    `);
  }
}
