import { Migration } from '@mikro-orm/migrations';

/** A host may ask for a password with a form of its own. */
export class Migration20261128170000 extends Migration {
  override up(): void {
    this.addSql(`alter table "host_access" drop constraint "host_access_kind_check";`);
    this.addSql(
      `alter table "host_access" add constraint "host_access_kind_check" check ("kind" in ('basic', 'header', 'cookie', 'form'));`,
    );
  }
}
