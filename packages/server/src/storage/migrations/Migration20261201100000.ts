import { Migration } from '@mikro-orm/migrations';

/** Signing in with a code of an authenticator, and giving the password again for what matters. */
export class Migration20261201100000 extends Migration {
  override up(): void {
    this.addSql(
      `alter table "member" add column "second_factor" text null, add column "second_factor_step" int null;`,
    );
    this.addSql(`alter table "credential" add column "confirmed_at" timestamptz null;`);
    this.addSql(`create table "recovery_code" (
      "id" serial primary key,
      "member_id" int not null constraint "recovery_code_member_id_foreign" references "member" ("id") on update cascade on delete cascade,
      "hash" varchar(255) not null constraint "recovery_code_hash_unique" unique
    );`);
    this.addSql(`create index "recovery_code_member_id_index" on "recovery_code" ("member_id");`);
  }
}
