import { Migration } from '@mikro-orm/migrations';

/** Recipes in versions that never change, the recipe that a snippet follows, and what was done at providers. */
export class Migration20261127000000 extends Migration {
  override up(): void {
    this.addSql(
      `create table "recipe" ("id" serial primary key, "key" varchar(255) not null, "version" int not null, "body" jsonb not null, "created_by" varchar(255) not null, "created_at" timestamptz not null);`,
    );
    this.addSql(`alter table "recipe" add constraint "recipe_key_version_unique" unique ("key", "version");`);
    this.addSql(`
      create function refuse_recipe_change() returns trigger language plpgsql as $$
      begin
        raise exception 'A version of a recipe is immutable; add a newer one instead.';
      end $$;
    `);
    this.addSql(`
      create trigger recipe_is_immutable before update or delete on "recipe"
      for each row execute function refuse_recipe_change();
    `);
    this.addSql(
      `create table "step_tick" ("id" serial primary key, "site_id" int not null, "recipe" varchar(255) not null, "step" varchar(255) not null, "host" varchar(255) not null, "by" varchar(255) not null, "at" timestamptz not null);`,
    );
    this.addSql(
      `alter table "step_tick" add constraint "step_tick_site_id_recipe_step_host_unique" unique ("site_id", "recipe", "step", "host");`,
    );
    this.addSql(
      `alter table "step_tick" add constraint "step_tick_site_id_foreign" foreign key ("site_id") references "site" ("id") on update cascade on delete cascade;`,
    );
    this.addSql(`alter table "snippet" add column "recipe" jsonb null;`);
  }
}
