import { expect } from 'chai';
import { readFileSync, readdirSync } from 'node:fs';

const FOLDER = 'packages/server/src/storage/migrations';

/**
 * Migrations that were there before an update had to go without a pause, and those that take away what the version before the
 * last one no longer uses. Everything else only adds: the version that is at work goes on beside the new one.
 */
const BEFORE = 'Migration20261129000000';
const CONTRACTS: Readonly<Record<string, string>> = {};

/** What takes something away from a version that does not know the change, or refuses what it writes. */
const TAKES_AWAY =
  /\b(?:drop (?:table|column|view|default|index|function|trigger)|rename\b|alter column "?\w+"? (?:type|set not null|drop)|truncate (?:table|"))/i;
/** A column that older versions leave out, and must be filled, takes a default. */
const MUST_BE_FILLED =
  /\badd column (?:if not exists )?"?\w+"? (?:(?!,\s*add column|;|`).)*?\bnot null\b(?:(?!,\s*add column|;|`).)*/gis;

describe('migrations', () => {
  const files = readdirSync(FOLDER).filter((name) => name.startsWith('Migration') && name > `${BEFORE}.ts`);

  it('only add, so that an update needs no pause', () => {
    expect(files).to.have.length.above(5);
    for (const file of files) {
      if (CONTRACTS[file] !== undefined) continue;
      const text = readFileSync(`${FOLDER}/${file}`, 'utf8');
      expect(TAKES_AWAY.exec(text)?.[0], file).to.equal(undefined);
      for (const [column] of text.matchAll(MUST_BE_FILLED)) expect(column, file).to.match(/\bdefault\b/i);
    }
  });

  it('are known to take something away where they do', () => {
    const taking = [
      'alter table "a" drop column "b"',
      'alter table "a" alter column "b" set not null',
      'alter table "a" rename to "b"',
      'alter table "a" alter column b type text',
      'drop view "gateway_release"',
    ];
    for (const sql of taking) expect(sql).to.match(TAKES_AWAY);
    const adding = ['alter table "a" add column "b" int null', 'create table "a" ("b" int not null)'];
    for (const sql of adding) expect(sql).not.to.match(TAKES_AWAY);
    expect([...'alter table "a" add column "b" int not null;'.matchAll(MUST_BE_FILLED)]).to.have.length(1);
  });
});
