import { Migration } from '@mikro-orm/migrations';

/** Accepted findings, what providers say of their parts, what must come first, and releases that were forced. */
export class Migration20261123170000 extends Migration {
  override up(): void {
    this.addSql(
      `create table "waiver" ("id" serial primary key, "site_id" int not null, "finding" varchar(255) not null, "fingerprint" varchar(255) not null, "title" text not null, "reason" text not null, "author" varchar(255) not null, "until" varchar(10) not null, "created_at" timestamptz not null);`,
    );
    this.addSql(
      `alter table "waiver" add constraint "waiver_site_id_finding_unique" unique ("site_id", "finding");`,
    );
    this.addSql(
      `alter table "waiver" add constraint "waiver_site_id_foreign" foreign key ("site_id") references "site" ("id") on update cascade on delete cascade;`,
    );
    this.addSql(`alter table "part" add column "statement" text not null default '';`);
    this.addSql(`alter table "snippet" add column "needs" jsonb not null default '[]';`);
    this.addSql(`alter table "release" add column "forced" jsonb null;`);
  }
}
