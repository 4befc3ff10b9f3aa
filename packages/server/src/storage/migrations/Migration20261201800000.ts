import { Migration } from '@mikro-orm/migrations';

/**
 * A language for each member. What is kept in words is also kept so that it can be said in another language (`said`); where that is
 * null, the words are all there is.
 */
export class Migration20261201800000 extends Migration {
  override up(): void {
    this.addSql(`alter table "member" add column "language" text null;`);
    this.addSql(`alter table "audit" add column "said" text null;`);
    this.addSql(`alter table "site_summary" add column "said" json null;`);
    this.addSql(`alter table "visit" add column "said" json null, add column "judged_said" json null;`);
    this.addSql(`alter table "visit_round" add column "said" json null;`);
    this.addSql(`alter table "comment" add column "said" text null;`);
    this.addSql(`alter table "standing" add column "said" json null;`);
  }
}
