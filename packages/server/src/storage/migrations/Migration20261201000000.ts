import { Migration } from '@mikro-orm/migrations';

const ROLE = `in ('view', 'edit', 'publish', 'own')`;

/** Who may do what where: roles of members, limits of tokens, invitations. Whoever was there before owns the installation. */
export class Migration20261201000000 extends Migration {
  override up(): void {
    this.addSql(`alter table "member" add column "role" text null check ("role" ${ROLE});`);
    this.addSql(`update "member" set "role" = 'own';`);
    this.addSql(`alter table "credential"
      add column "role" text null check ("role" in ('view', 'edit', 'publish', 'own', 'deploy')),
      add column "is_for_all_sites" boolean not null default true;`);
    this.addSql(`create table "membership" (
      "id" serial primary key,
      "member_id" int not null constraint "membership_member_id_foreign" references "member" ("id") on update cascade on delete cascade,
      "site_id" int not null constraint "membership_site_id_foreign" references "site" ("id") on update cascade on delete cascade,
      "role" text not null check ("role" ${ROLE}),
      constraint "membership_member_id_site_id_unique" unique ("member_id", "site_id")
    );`);
    this.addSql(`create index "membership_site_id_index" on "membership" ("site_id");`);
    this.addSql(`create table "token_site" (
      "id" serial primary key,
      "credential_id" int not null constraint "token_site_credential_id_foreign" references "credential" ("id") on update cascade on delete cascade,
      "site_id" int not null constraint "token_site_site_id_foreign" references "site" ("id") on update cascade on delete cascade,
      constraint "token_site_credential_id_site_id_unique" unique ("credential_id", "site_id")
    );`);
    this.addSql(`create index "token_site_site_id_index" on "token_site" ("site_id");`);
    this.addSql(`create table "invitation" (
      "id" serial primary key,
      "hash" varchar(255) not null constraint "invitation_hash_unique" unique,
      "name" varchar(255) not null,
      "role" text null check ("role" ${ROLE}),
      "created_by" varchar(255) not null,
      "created_at" timestamptz not null,
      "expires_at" timestamptz not null
    );`);
    this.addSql(`create table "invited_role" (
      "id" serial primary key,
      "invitation_id" int not null constraint "invited_role_invitation_id_foreign" references "invitation" ("id") on update cascade on delete cascade,
      "site_id" int not null constraint "invited_role_site_id_foreign" references "site" ("id") on update cascade on delete cascade,
      "role" text not null check ("role" ${ROLE}),
      constraint "invited_role_invitation_id_site_id_unique" unique ("invitation_id", "site_id")
    );`);
    this.addSql(`create index "invited_role_site_id_index" on "invited_role" ("site_id");`);
  }
}
