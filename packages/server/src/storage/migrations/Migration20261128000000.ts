import { createHash } from 'node:crypto';
import { Migration } from '@mikro-orm/migrations';
import { canonicalJson, freezeSet, type Snapshot } from '@pragmatica/core';

interface Content {
  readonly digest: string;
  readonly key: string | null;
  readonly body: object;
}

/**
 * Releases by content: what snippets of many releases have in common is kept once, and a release is a list of it. Those
 * that there are are taken apart; what each holds, and its digest, stay as they were.
 */
export class Migration20261128000000 extends Migration {
  override async up(): Promise<void> {
    await this.execute(
      `create table "release_content" ("id" serial primary key, "digest" char(64) not null constraint "release_content_digest_unique" unique, "key" varchar(255) null, "body" jsonb not null)`,
    );
    await this.execute(`create index "release_content_key_index" on "release_content" ("key")`);
    await this.execute(
      `alter table "release" add column "header_id" int null, add column "snippets" int[] not null default '{}'`,
    );
    await this.execute(`drop trigger release_is_immutable on "release"`);
    await this.#takeApart();
    await this.execute(`drop view "gateway_release"`);
    await this.execute(`
      alter table "release" drop column "snapshot", alter column "header_id" set not null,
        alter column "snippets" drop default,
        add constraint "release_header_id_foreign" foreign key ("header_id") references "release_content" ("id") on update cascade
    `);
    await this.execute(`create index "release_header_id_index" on "release" ("header_id")`);
    await this.execute(`
      create trigger release_is_immutable before update or delete on "release"
      for each row execute function refuse_release_change()
    `);
    await this.execute(`
      create trigger release_content_is_immutable before update or delete on "release_content"
      for each row execute function refuse_release_change()
    `);
    await this.execute(`
      create trigger release_content_is_kept before truncate on "release_content"
      for each statement execute function refuse_release_change()
    `);
    await this.execute(
      `create view "gateway_release" as select id, number, digest, header_id as header, snippets from "release"`,
    );
    await this.execute(`create view "gateway_content" as select id, body from "release_content"`);
  }

  /** One release at a time, however many there are. */
  async #takeApart(): Promise<void> {
    const known = new Map<string, number>();
    for (const { id } of await this.execute(`select id from "release" order by id`)) {
      const [row] = await this.execute(`select snapshot from "release" where id = ?`, [id]);
      const { snapshot } = row as { snapshot: Snapshot | string };
      const { header, snippets } = freezeSet(
        typeof snapshot === 'string' ? (JSON.parse(snapshot) as Snapshot) : snapshot,
      );
      const contents = [
        toContent(header, null),
        ...snippets.map((snippet) => toContent(snippet, snippet.key)),
      ];
      const missing = [
        ...new Map(
          contents.flatMap((content) => (known.has(content.digest) ? [] : [[content.digest, content]])),
        ).values(),
      ];
      const kept = await this.execute(
        `insert into "release_content" ("digest", "key", "body")
           select * from jsonb_to_recordset(?::jsonb) as c("digest" char(64), "key" varchar(255), "body" jsonb)
         returning id, digest`,
        [JSON.stringify(missing)],
      );
      for (const one of kept as { id: number; digest: string }[]) known.set(one.digest, one.id);
      const [headerId, ...ids] = contents.map(({ digest }) => known.get(digest)!);
      await this.execute(`update "release" set header_id = ?, snippets = ?::int[] where id = ?`, [
        headerId,
        `{${ids.join()}}`,
        id,
      ]);
    }
  }
}

function toContent(body: object, key: string | null): Content {
  return { digest: createHash('sha256').update(canonicalJson(body)).digest('hex'), key, body };
}
