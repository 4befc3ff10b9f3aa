import { Migration } from '@mikro-orm/migrations';

/** The trail may be kept for a while only, where the owner says so: then, and only then, its oldest entries are removed. */
export class Migration20261128110000 extends Migration {
  override up(): void {
    this.addSql(`create index "audit_at_index" on "audit" ("at");`);
    this.addSql(`
      create or replace function refuse_audit_change() returns trigger language plpgsql as $$
      begin
        if TG_OP = 'UPDATE' then
          if NEW.site_id is null and (NEW."action", NEW."message", NEW."by", NEW."at") = (OLD."action", OLD."message", OLD."by", OLD."at") then
            return NEW;
          end if;
        end if;
        if TG_OP = 'DELETE' and OLD."at" < now() - (nullif(current_setting('pragmatica.trail_days', true), '') || ' days')::interval then
          return OLD;
        end if;
        raise exception 'The trail of what was done is only ever added to.';
      end $$;
    `);
  }
}
