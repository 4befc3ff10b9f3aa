import { Migration } from '@mikro-orm/migrations';

/**
 * The trail says from where and by which token something was done, and what was there before and after. Its entries are chained by
 * hash: the links stay when entries grow too old to be kept.
 */
export class Migration20261201300000 extends Migration {
  override up(): void {
    this.addSql(
      `alter table "audit" add column "token" varchar(255) null, add column "address" varchar(255) null;`,
    );
    this.addSql(`create table "trail_change" (
      "id" serial primary key,
      "entry_id" int not null constraint "trail_change_entry_id_foreign" references "audit" ("id") on update cascade on delete cascade,
      "kind" varchar(255) not null,
      "key" varchar(255) not null,
      "before" jsonb null,
      "after" jsonb null
    );`);
    this.addSql(`create index "trail_change_entry_id_index" on "trail_change" ("entry_id");`);
    this.addSql(`create index "trail_change_key_kind_index" on "trail_change" ("key", "kind");`);
    this.addSql(`create table "trail_link" (
      "number" int primary key,
      "entry" int not null constraint "trail_link_entry_unique" unique,
      "at" timestamptz not null,
      "digest" char(64) not null,
      "hash" char(64) not null
    );`);
    // What an entry says of where it came from is as little to be changed as the rest of it.
    this.addSql(`
      create or replace function refuse_audit_change() returns trigger language plpgsql as $$
      begin
        if TG_OP = 'UPDATE' then
          if NEW.site_id is null and (NEW."action", NEW."message", NEW."by", NEW."at") = (OLD."action", OLD."message", OLD."by", OLD."at")
            and NEW."token" is not distinct from OLD."token" and NEW."address" is not distinct from OLD."address" then
            return NEW;
          end if;
        end if;
        if TG_OP = 'DELETE' and OLD."at" < now() - (nullif(current_setting('pragmatica.trail_days', true), '') || ' days')::interval then
          return OLD;
        end if;
        raise exception 'The trail of what was done is only ever added to.';
      end $$;
    `);
    this.addSql(`
      create function refuse_trail_change() returns trigger language plpgsql as $$
      begin
        if TG_OP = 'DELETE' and TG_TABLE_NAME = 'trail_change' then
          -- It goes with its entry, which is gone by then.
          if not exists (select from "audit" where "id" = OLD."entry_id") then return OLD; end if;
        end if;
        raise exception 'The trail of what was done is only ever added to.';
      end $$;
    `);
    for (const table of ['trail_change', 'trail_link']) {
      this.addSql(`
        create trigger ${table}_is_append_only before update or delete on "${table}"
        for each row execute function refuse_trail_change();
      `);
      this.addSql(`
        create trigger ${table}_is_kept before truncate on "${table}"
        for each statement execute function refuse_trail_change();
      `);
    }
  }
}
