import { Migration } from '@mikro-orm/migrations';

/** The content policy that gateways send for a host, what browsers report of it, and the hashes of files that pages load. */
export class Migration20261129000000 extends Migration {
  override up(): void {
    this.addSql(
      `alter table "survey_file" add column "integrity" text, add column "is_shared" boolean not null default false;`,
    );
    this.addSql(`
      create table "host_policy" (
        "site_id" int not null references "site" ("id") on delete cascade,
        "host" text not null,
        "mode" text not null check ("mode" in ('off', 'report', 'enforce')),
        "own" json not null,
        "reports_to" text not null,
        "needs" jsonb not null default '{}',
        "needs_release" int,
        "needs_survey" int,
        "changed_by" text not null,
        "changed_at" timestamptz not null default now(),
        primary key ("site_id", "host")
      );
    `);
    this.addSql(`
      create table "policy_report" (
        "id" serial primary key,
        "site_id" int not null references "site" ("id") on delete cascade,
        "host" text not null,
        "directive" text not null,
        "blocked" text not null,
        "source" text not null,
        "sample" text not null,
        "is_enforced" boolean not null,
        "path" text not null,
        "count" int not null,
        "first_at" timestamptz not null default now(),
        "last_at" timestamptz not null default now(),
        unique ("site_id", "host", "directive", "blocked", "source", "sample", "is_enforced")
      );
    `);
    // Gateways may add reports of hosts that there are, so many kinds of each, and nothing else.
    this.addSql(`
      create function "gateway_report"(reports jsonb) returns void language sql as $$
        insert into "policy_report" (site_id, host, directive, blocked, source, sample, is_enforced, path, count)
        select h.site_id, r.host, r.directive, r.blocked, r.source, r.sample, r."isEnforced", min(r.path),
          least(sum(r.count), 1000000)::int
        from jsonb_to_recordset(reports) as r(host text, directive text, blocked text, source text, sample text,
          "isEnforced" boolean, path text, count int)
        join "host" h on h.host = r.host
        where (select count(*) from "policy_report" p where p.site_id = h.site_id and p.host = r.host) < 500
        group by h.site_id, r.host, r.directive, r.blocked, r.source, r.sample, r."isEnforced"
        on conflict (site_id, host, directive, blocked, source, sample, is_enforced)
          do update set count = least(policy_report.count::bigint + excluded.count, 1000000000)::int, last_at = now(),
            path = excluded.path
      $$;
    `);
    this.addSql(`
      create or replace view "gateway_host" as
      select h.host, h.environment, h.origin, h.transfer, s.key as site, p.release_id as release, h.delivery,
        case when c.mode <> 'off' and c.needs_release = p.release_id then
          jsonb_build_object('mode', c.mode, 'own', c.own, 'reportsTo', c.reports_to, 'needs', c.needs) end as policy
      from "host" h
      join "site" s on s.id = h.site_id
      left join "pointer" p on p.site_id = h.site_id and p.environment = h.environment
      left join "host_policy" c on c.site_id = h.site_id and c.host = h.host;
    `);
  }
}
