import { Migration } from '@mikro-orm/migrations';

/** Signing in with passkeys. */
export class Migration20261201200000 extends Migration {
  override up(): void {
    this.addSql(`create table "passkey" (
      "id" serial primary key,
      "member_id" int not null constraint "passkey_member_id_foreign" references "member" ("id") on update cascade on delete cascade,
      "name" varchar(255) not null,
      "credential_id" text not null constraint "passkey_credential_id_unique" unique,
      "public_key" text not null,
      "counter" bigint not null,
      "transports" jsonb not null,
      "party_id" varchar(255) not null,
      "created_at" timestamptz not null,
      "last_used_at" timestamptz null
    );`);
    this.addSql(`create index "passkey_member_id_index" on "passkey" ("member_id");`);
  }
}
