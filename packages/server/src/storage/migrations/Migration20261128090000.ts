import { Migration } from '@mikro-orm/migrations';

/**
 * What lists say of sites and recipes, kept so that no list reads a draft. Whatever is written into the trail makes the
 * summary of its site old; a new version of a recipe makes all of them old.
 */
export class Migration20261128090000 extends Migration {
  override up(): void {
    // Names in the order in which people look for them: "Pier 9" before "Pier 10".
    this.addSql(
      `create collation if not exists "natural" (provider = icu, locale = 'en-u-kn-true', deterministic = true);`,
    );
    this.addSql(`
      create table "site_summary" (
        "site_id" int primary key,
        "revision" int not null default 0,
        "summed_revision" int null,
        "fresh_until" timestamptz null,
        "changed" xid8 not null default pg_current_xact_id(),
        "snippets" jsonb not null default '{"on":0,"off":0,"archived":0}',
        "findings" jsonb not null default '{"error":0,"warning":0,"advice":0,"waived":0}',
        "pending_changes" int not null default 0,
        "attention" jsonb not null default '[]',
        "urgency" int not null default 0,
        constraint "site_summary_site_id_foreign" foreign key ("site_id") references "site" ("id") on update cascade on delete cascade
      );
    `);
    this.addSql(`create index "site_summary_changed_index" on "site_summary" ("changed");`);
    this.addSql(`
      create table "recognised_use" (
        "id" serial primary key,
        "snippet_id" int not null constraint "recognised_use_snippet_id_unique" unique,
        "recipe" varchar(255) not null,
        constraint "recognised_use_snippet_id_foreign" foreign key ("snippet_id") references "snippet" ("id") on update cascade on delete cascade
      );
    `);
    this.addSql(`create index "recognised_use_recipe_index" on "recognised_use" ("recipe");`);
    this.addSql(
      `create index "snippet_recipe_index" on "snippet" (("recipe" ->> 'key'), (("recipe" ->> 'version')::int)) where "recipe" is not null;`,
    );
    this.addSql(`insert into "site_summary" ("site_id") select "id" from "site";`);
    this.addSql(`
      create function age_site_summaries() returns trigger language plpgsql as $$
      begin
        insert into site_summary (site_id) select distinct site_id from written where site_id is not null
          order by site_id on conflict do nothing;
        -- In one order for all, so that none waits for another that waits for it.
        perform 1 from site_summary where site_id in (select site_id from written) or exists
          (select 1 from written where "action" = 'recipe.add') order by site_id for update;
        update site_summary set revision = revision + 1, changed = pg_current_xact_id()
          where site_id in (select site_id from written) or exists (select 1 from written where "action" = 'recipe.add');
        return null;
      end $$;
    `);
    this.addSql(`
      create trigger audit_ages_site_summaries after insert on "audit"
      referencing new table as written for each statement execute function age_site_summaries();
    `);
  }
}
