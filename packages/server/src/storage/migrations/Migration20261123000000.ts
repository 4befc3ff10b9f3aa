import { Migration } from '@mikro-orm/migrations';

/** The first tables. Releases are immutable: the database itself refuses to change or delete one. */
export class Migration20261123000000 extends Migration {
  override up(): void {
    this.addSql(
      `create table "member" ("id" serial primary key, "login" varchar(255) not null, "name" varchar(255) not null, "password_hash" text not null, "must_change_password" boolean not null, "created_at" timestamptz not null);`,
    );
    this.addSql(`alter table "member" add constraint "member_login_unique" unique ("login");`);
    this.addSql(
      `create table "credential" ("id" serial primary key, "kind" varchar(255) not null, "hash" varchar(255) not null, "name" varchar(255) not null, "member_id" int not null, "created_at" timestamptz not null, "last_used_at" timestamptz null, "expires_at" timestamptz not null);`,
    );
    this.addSql(`alter table "credential" add constraint "credential_hash_unique" unique ("hash");`);
    this.addSql(`create index "credential_member_id_index" on "credential" ("member_id");`);
    this.addSql(
      `create table "site" ("id" serial primary key, "key" varchar(255) not null, "name" varchar(255) not null, "time_zone" varchar(255) not null, "updated_by" varchar(255) not null, "updated_at" timestamptz not null, "version" int not null default 1);`,
    );
    this.addSql(`alter table "site" add constraint "site_key_unique" unique ("key");`);
    this.addSql(
      `create table "release" ("id" serial primary key, "site_id" int not null, "number" int not null, "message" text not null, "author" varchar(255) not null, "created_at" timestamptz not null, "snapshot" jsonb not null, "digest" varchar(255) not null, "snippets_on" int not null);`,
    );
    this.addSql(
      `alter table "release" add constraint "release_site_id_number_unique" unique ("site_id", "number");`,
    );
    this.addSql(
      `create table "pointer" ("id" serial primary key, "site_id" int not null, "environment" varchar(255) not null, "release_id" int not null, "changed_by" varchar(255) not null, "changed_at" timestamptz not null, "version" int not null default 1);`,
    );
    this.addSql(
      `alter table "pointer" add constraint "pointer_site_id_environment_unique" unique ("site_id", "environment");`,
    );
    this.addSql(
      `create table "host" ("id" serial primary key, "site_id" int not null, "host" varchar(255) not null, "environment" varchar(255) not null, "origin" varchar(255) not null, "address" varchar(255) null, "position" int not null);`,
    );
    this.addSql(`alter table "host" add constraint "host_host_unique" unique ("host");`);
    this.addSql(
      `create table "audit" ("id" serial primary key, "site_id" int null, "action" varchar(255) not null, "message" text not null, "by" varchar(255) not null, "at" timestamptz not null);`,
    );
    this.addSql(`create index "audit_site_id_index" on "audit" ("site_id");`);
    this.addSql(
      `create table "snippet" ("id" serial primary key, "site_id" int not null, "key" varchar(255) not null, "name" varchar(255) not null, "purpose" text not null, "provider" text not null, "note" text not null, "state" varchar(255) not null, "include" jsonb not null, "exclude" jsonb not null, "updated_by" varchar(255) not null, "updated_at" timestamptz not null, "version" int not null default 1);`,
    );
    this.addSql(
      `alter table "snippet" add constraint "snippet_site_id_key_unique" unique ("site_id", "key");`,
    );
    this.addSql(
      `create table "part" ("id" serial primary key, "snippet_id" int not null, "position" int not null, "placement" jsonb not null, "rank" int not null, "code" text not null);`,
    );
    this.addSql(`create index "part_snippet_id_index" on "part" ("snippet_id");`);
    this.addSql(
      `alter table "credential" add constraint "credential_member_id_foreign" foreign key ("member_id") references "member" ("id") on update cascade on delete cascade;`,
    );
    this.addSql(
      `alter table "release" add constraint "release_site_id_foreign" foreign key ("site_id") references "site" ("id") on update cascade;`,
    );
    this.addSql(
      `alter table "pointer" add constraint "pointer_site_id_foreign" foreign key ("site_id") references "site" ("id") on update cascade on delete cascade;`,
    );
    this.addSql(
      `alter table "pointer" add constraint "pointer_release_id_foreign" foreign key ("release_id") references "release" ("id") on update cascade;`,
    );
    this.addSql(
      `alter table "host" add constraint "host_site_id_foreign" foreign key ("site_id") references "site" ("id") on update cascade on delete cascade;`,
    );
    this.addSql(
      `alter table "audit" add constraint "audit_site_id_foreign" foreign key ("site_id") references "site" ("id") on update cascade on delete set null;`,
    );
    this.addSql(
      `alter table "snippet" add constraint "snippet_site_id_foreign" foreign key ("site_id") references "site" ("id") on update cascade on delete cascade;`,
    );
    this.addSql(
      `alter table "part" add constraint "part_snippet_id_foreign" foreign key ("snippet_id") references "snippet" ("id") on update cascade on delete cascade;`,
    );
    this.addSql(`
      create function refuse_release_change() returns trigger language plpgsql as $$
      begin
        raise exception 'A release is immutable; publish a new one instead.';
      end $$;
    `);
    this.addSql(`
      create trigger release_is_immutable before update or delete on "release"
      for each row execute function refuse_release_change();
    `);
  }
}
