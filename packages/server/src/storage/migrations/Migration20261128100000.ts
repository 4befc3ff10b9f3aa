import { Migration } from '@mikro-orm/migrations';
import { fieldNames } from '@pragmatica/core';

const AT_A_TIME = 500;

/** Which fields the code of a part uses, kept beside it: a recipe must know that without reading all code of a site. */
export class Migration20261128100000 extends Migration {
  override async up(): Promise<void> {
    await this.execute(`alter table "part" add column "field_names" jsonb not null default '[]'`);
    for (let last = 0; ;) {
      const rows = (await this.execute(
        `select id, code from "part" where id > ? and code like '%@{%' order by id limit ?`,
        [last, AT_A_TIME],
      )) as { id: number; code: string }[];
      if (rows.length === 0) return;
      for (const { id, code } of rows) {
        const names = fieldNames({ parts: [{ placement: 'body-end', rank: 0, code }] });
        await this.execute(`update "part" set field_names = ?::jsonb where id = ?`, [
          JSON.stringify(names),
          id,
        ]);
        last = id;
      }
    }
  }
}
