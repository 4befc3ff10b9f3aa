import { Migration } from '@mikro-orm/migrations';

/**
 * Surveys: walks over a site's real pages, and what was seen there. Pages of one make stand on one composition, and
 * texts (code, skeletons, policies) are kept once by digest, so that a page of many costs a row. Texts and compositions are
 * only ever added, so what names one needs no foreign key, which would cost each page three lookups.
 */
export class Migration20261128120000 extends Migration {
  override up(): void {
    this.addSql(`
      create table "survey" (
        "id" serial primary key,
        "site_id" int not null,
        "number" int not null,
        "host" varchar(255) not null,
        "environment" text not null check ("environment" in ('staging', 'live')),
        "side" text not null check ("side" in ('public', 'origin')),
        "state" text not null default 'waiting' check ("state" in ('waiting', 'running', 'done', 'cancelled', 'failed')),
        "options" jsonb not null,
        "release" int null,
        "reader" int not null,
        "robots" jsonb null,
        "problem" jsonb null,
        "found" int not null default 0,
        "visited" int not null default 0,
        "failed" int not null default 0,
        "unchanged" int not null default 0,
        "left_out" int not null default 0,
        "requested_by" varchar(255) not null,
        "created_at" timestamptz not null default now(),
        "started_at" timestamptz null,
        "ended_at" timestamptz null,
        "beat_at" timestamptz not null default now(),
        "next_fetch_at" timestamptz not null default now(),
        constraint "survey_site_id_number_unique" unique ("site_id", "number"),
        constraint "survey_site_id_foreign" foreign key ("site_id") references "site" ("id") on update cascade on delete cascade
      );
    `);
    this.addSql(
      `create index "survey_state_index" on "survey" ("state") where "state" in ('waiting', 'running');`,
    );
    this.addSql(`
      create table "survey_text" (
        "id" serial primary key,
        "digest" char(32) not null constraint "survey_text_digest_unique" unique,
        "body" text not null
      );
    `);
    this.addSql(`
      create table "sighting" (
        "id" serial primary key,
        "site_id" int not null,
        "key" char(32) not null,
        "kind" text not null,
        "name" text not null,
        "provider" text not null,
        "shape" text not null,
        "accounts" jsonb not null,
        "loads" jsonb not null,
        "code_id" int not null,
        "before" text not null,
        "after" text not null,
        "first_path" text not null,
        "is_ours" boolean not null,
        "seen_at" timestamptz not null default now(),
        "ignored" jsonb null,
        "adopted" jsonb null,
        constraint "sighting_site_id_key_unique" unique ("site_id", "key"),
        constraint "sighting_site_id_foreign" foreign key ("site_id") references "site" ("id") on update cascade on delete cascade
      );
    `);
    this.addSql(`
      create table "composition" (
        "id" serial primary key,
        "site_id" int not null,
        "digest" char(32) not null,
        "body" jsonb not null,
        constraint "composition_site_id_digest_unique" unique ("site_id", "digest"),
        constraint "composition_site_id_foreign" foreign key ("site_id") references "site" ("id") on update cascade on delete cascade
      );
    `);
    // State: 0 to be visited, 1 taken by a worker until \`taken_until\`, 2 read, 3 given up.
    this.addSql(`
      create table "survey_page" (
        "id" bigserial primary key,
        "survey_id" int not null,
        "path" text not null,
        "state" smallint not null default 0,
        "depth" smallint not null,
        "found_by" text not null,
        "attempts" smallint not null default 0,
        "taken_until" timestamptz null,
        "status" int null,
        "outcome" text null,
        "title" text null,
        "type" text null,
        "section" text null,
        "language" text null,
        "charset" text null,
        "charset_from" text null,
        "canonical" text null,
        "leads_to" text null,
        "skeleton_id" int null,
        "policies_id" int null,
        "composition_id" int null,
        "etag" text null,
        "last_modified" text null,
        "bytes" int null,
        "starts" int[] null,
        "traits" jsonb not null default '[]',
        constraint "survey_page_survey_id_path_unique" unique ("survey_id", "path"),
        constraint "survey_page_survey_id_foreign" foreign key ("survey_id") references "survey" ("id") on update cascade on delete cascade
      );
    `);
    this.addSql(
      `create index "survey_page_open_index" on "survey_page" ("survey_id", "depth", "id") where "state" < 2;`,
    );
    this.addSql(
      `create index "survey_page_composition_index" on "survey_page" ("survey_id", "composition_id") where "state" = 2;`,
    );
    this.addSql(`
      create table "survey_shape" (
        "survey_id" int not null,
        "shape" text not null,
        "most" int not null,
        "found" int not null,
        constraint "survey_shape_pkey" primary key ("survey_id", "shape"),
        constraint "survey_shape_survey_id_foreign" foreign key ("survey_id") references "survey" ("id") on update cascade on delete cascade
      );
    `);
  }
}
