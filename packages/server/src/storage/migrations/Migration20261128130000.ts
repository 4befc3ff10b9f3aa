import { Migration } from '@mikro-orm/migrations';

/** How the service gets into a host that is not public yet. What opens it is sealed: the database alone opens nothing. */
export class Migration20261128130000 extends Migration {
  override up(): void {
    this.addSql(`
      create table "host_access" (
        "site_id" int not null,
        "host" varchar(255) not null,
        "kind" text not null check ("kind" in ('basic', 'header', 'cookie')),
        "sealed" text not null,
        "set_by" varchar(255) not null,
        "set_at" timestamptz not null default now(),
        constraint "host_access_pkey" primary key ("site_id", "host"),
        constraint "host_access_site_id_foreign" foreign key ("site_id") references "site" ("id") on update cascade on delete cascade
      );
    `);
  }
}
