import { Migration } from '@mikro-orm/migrations';

/** Signing in at an identity provider. */
export class Migration20261201600000 extends Migration {
  override up(): void {
    this.addSql(`create table "identity" (
      "id" serial primary key,
      "member_id" int not null constraint "identity_member_id_foreign" references "member" ("id") on update cascade on delete cascade,
      "issuer" text not null,
      "subject" text not null,
      "name" varchar(255) not null,
      "created_at" timestamptz not null,
      "last_used_at" timestamptz null,
      constraint "identity_issuer_subject_unique" unique ("issuer", "subject")
    );`);
    this.addSql(`create index "identity_member_id_index" on "identity" ("member_id");`);
  }
}
