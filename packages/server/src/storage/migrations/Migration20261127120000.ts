import { Migration } from '@mikro-orm/migrations';

/**
 * What the database refuses by itself: states and environments that do not exist, a pointer to another site's release,
 * emptying a table that is only ever added to. And the two views from which gateways read.
 */
export class Migration20261127120000 extends Migration {
  override up(): void {
    // A list of origins has no length that a column should know.
    this.addSql(`alter table "host" alter column "origin" type text, alter column "address" type text;`);
    this.addSql(
      `alter table "host" add column "transfer" text not null default 'auto' check ("transfer" in ('auto', 'plain', 'compressed'));`,
    );
    this.addSql(`create index "host_site_id_index" on "host" ("site_id");`);
    this.addSql(`create index "pointer_release_id_index" on "pointer" ("release_id");`);
    for (const [table, column, values] of CHOICES)
      this.addSql(
        `alter table "${table}" alter column "${column}" type text, add constraint "${table}_${column}_check" check ("${column}" in (${values.map((value) => `'${value}'`).join(', ')}));`,
      );
    this.addSql(
      `alter table "waiver" add constraint "waiver_until_check" check ("until" ~ '^\\d{4}-\\d{2}-\\d{2}$');`,
    );
    this.addSql(`alter table "release" add constraint "release_site_id_id_unique" unique ("site_id", "id");`);
    this.addSql(
      `alter table "pointer" add constraint "pointer_release_of_site_foreign" foreign key ("site_id", "release_id") references "release" ("site_id", "id") on update cascade;`,
    );
    this.addSql(`
      create function refuse_audit_change() returns trigger language plpgsql as $$
      begin
        if TG_OP = 'UPDATE' then
          if NEW.site_id is null and (NEW."action", NEW."message", NEW."by", NEW."at") = (OLD."action", OLD."message", OLD."by", OLD."at") then
            return NEW;
          end if;
        end if;
        raise exception 'The trail of what was done is only ever added to.';
      end $$;
    `);
    this.addSql(`
      create trigger audit_is_append_only before update or delete on "audit"
      for each row execute function refuse_audit_change();
    `);
    for (const [table, refuse] of [
      ['release', 'refuse_release_change'],
      ['recipe', 'refuse_recipe_change'],
      ['audit', 'refuse_audit_change'],
    ] as const)
      this.addSql(`
        create trigger ${table}_is_kept before truncate on "${table}"
        for each statement execute function ${refuse}();
      `);
    this.addSql(`
      create view "gateway_host" as
      select h.host, h.environment, h.origin, h.transfer, s.key as site, p.release_id as release
      from "host" h
      join "site" s on s.id = h.site_id
      left join "pointer" p on p.site_id = h.site_id and p.environment = h.environment;
    `);
    this.addSql(`
      create view "gateway_release" as select id, number, digest, snapshot from "release";
    `);
  }
}

const ENVIRONMENTS = ['staging', 'live'];
const CHOICES: readonly (readonly [string, string, readonly string[]])[] = [
  ['host', 'environment', ENVIRONMENTS],
  ['pointer', 'environment', ENVIRONMENTS],
  ['snippet', 'state', ['on', 'off', 'archived']],
  ['credential', 'kind', ['session', 'token']],
];
