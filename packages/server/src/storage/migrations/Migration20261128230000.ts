import { Migration } from '@mikro-orm/migrations';

/** Hosts whose own server includes what they get, or puts it in. */
export class Migration20261128230000 extends Migration {
  override up(): void {
    this.addSql(`
      alter table "host" drop constraint "host_delivery_check", add constraint "host_delivery_check"
        check ("delivery" in ('gateway', 'line', 'async-line', 'paste', 'fragments', 'middleware', 'folder'));
    `);
  }
}
