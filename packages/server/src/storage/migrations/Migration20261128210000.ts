import { Migration } from '@mikro-orm/migrations';

/** Parts that run again on every view of a single-page application. */
export class Migration20261128210000 extends Migration {
  override up(): void {
    this.addSql(
      `alter table "part" add column "per" text not null default 'load' constraint "part_per_check" check ("per" in ('load', 'view'));`,
    );
  }
}
