import { Migration } from '@mikro-orm/migrations';

/** The way in which each host's pages get their parts; gateways leave those of others alone. */
export class Migration20261128200000 extends Migration {
  override up(): void {
    this.addSql(
      `alter table "host" add column "delivery" text not null default 'gateway' constraint "host_delivery_check" check ("delivery" in ('gateway', 'line', 'async-line', 'paste', 'folder'));`,
    );
    this.addSql(`
      create or replace view "gateway_host" as
      select h.host, h.environment, h.origin, h.transfer, s.key as site, p.release_id as release, h.delivery
      from "host" h
      join "site" s on s.id = h.site_id
      left join "pointer" p on p.site_id = h.site_id and p.environment = h.environment;
    `);
  }
}
