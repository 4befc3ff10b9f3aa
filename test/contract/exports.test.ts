import { readFileSync, readdirSync } from 'node:fs';
import { dirname } from 'node:path';
import { expect } from 'chai';
import * as core from '@pragmatica/core';
import * as demo from '@pragmatica/demo';
import * as gateway from '@pragmatica/gateway';
import * as runtime from '@pragmatica/runtime';
import * as server from '@pragmatica/server';
import * as visitor from '@pragmatica/visitor';

/** All but the contract: that is every schema of its documents. */
const PACKAGES = { core, demo, gateway, runtime, server, visitor };
const NOT_OURS = /(?:^|\/)(?:node_modules|dist|\.cache)\//;

/** A source file as the words in it, and those that it declares for others. */
interface Source {
  readonly folder: string;
  readonly words: ReadonlySet<string>;
  readonly declared: ReadonlySet<string>;
}

const DECLARED = /^export (?:async )?(?:function\*?|const|class) (\w+)/gm;

/** An index is no user of what it passes on. */
function sources(): Source[] {
  return ['packages', 'bench', 'scripts', 'test'].flatMap((base) =>
    readdirSync(base, { recursive: true, encoding: 'utf8' })
      .map((file) => `${base}/${file}`)
      .filter((file) => /\.(?:tsx?|mjs)$/.test(file) && !NOT_OURS.test(file) && !file.endsWith('/index.ts'))
      .map((file) => {
        const text = readFileSync(file, 'utf8');
        const declared = new Set([...text.matchAll(DECLARED)].map(([, word]) => word!));
        return { folder: dirname(file), words: new Set(text.match(/\w+/g)), declared };
      }),
  );
}

describe('what a package exports', () => {
  let all: Source[];
  before(() => {
    all = sources();
  });
  for (const [name, exported] of Object.entries(PACKAGES))
    it(`is used: ${name}`, () => {
      const home = `packages/${name}/`;
      const unused = Object.keys(exported).filter((value) => {
        const homes = new Set(
          all
            .filter(({ folder, declared }) => folder.startsWith(home) && declared.has(value))
            .map(({ folder }) => folder),
        );
        // Another folder of the same package knows of it by the folder's index, too.
        return !all.some(({ folder, words }) => words.has(value) && !homes.has(folder));
      });
      expect(unused, 'Take these out of the index.ts that exports them.').to.deep.equal([]);
    });
});
