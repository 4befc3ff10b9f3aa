import { mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { expect } from 'chai';
import { cruise, type ICruiseOptions, type ICruiseResult, type IForbiddenRuleType } from 'dependency-cruiser';
import configuration, { CORE_LAYERS, SERVER_LAYERS } from '../../.dependency-cruiser.mjs';

const CORE = 'packages/core';

/** The names of the rules that these files break. */
async function broken(files: Readonly<Record<string, string>>): Promise<string[]> {
  const folder = mkdtempSync(join(tmpdir(), 'layers-'));
  try {
    for (const [path, text] of Object.entries(files)) {
      mkdirSync(dirname(join(folder, path)), { recursive: true });
      writeFileSync(join(folder, path), text);
    }
    const { output } = await cruise(['packages'], {
      ...(configuration.options as ICruiseOptions),
      tsConfig: undefined,
      baseDir: folder,
      validate: true,
      ruleSet: { forbidden: configuration.forbidden as IForbiddenRuleType[] },
    });
    return (output as ICruiseResult).summary.violations.map(({ rule }) => rule.name).sort();
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** The first column of the README's drawing, and what the last names. */
function drawing(root: string): { folder: string; knows: string[] }[] {
  const rows = readFileSync(`${root}/README.md`, 'utf8').matchAll(/^\| `(\w+)` .*\|([^|]*)\|$/gm);
  return [...rows].map(([, folder, last]) => ({
    folder: folder!,
    knows: [...last!.matchAll(/`(\w+)`/g)].map(([, name]) => name!),
  }));
}

describe('layers', () => {
  for (const [root, layers] of [
    [CORE, CORE_LAYERS],
    ['packages/server', SERVER_LAYERS],
  ] as const)
    it(`of ${root} are its folders, and its README draws them in this order`, () => {
      const folders = readdirSync(`${root}/src`, { withFileTypes: true }).filter((entry) =>
        entry.isDirectory(),
      );
      expect(folders.map(({ name }) => name)).to.have.members([...layers]);
      expect(drawing(root).map(({ folder }) => folder)).to.deep.equal(layers);
    });

  it('of core are drawn as they are: each row names what the folder imports', () => {
    for (const { folder, knows } of drawing(CORE)) expect(knows, folder).to.have.members(importedBy(folder));
  });

  it('refuse an import upwards, of a type too, and allow one downwards', async () => {
    const checks = { 'packages/core/src/checks/index.ts': 'export type Check = string;\n' };
    expect(
      await broken({
        ...checks,
        'packages/core/src/insert/a.ts':
          "import type { Check } from '../checks/index.js';\nexport type A = Check;\n",
      }),
    ).to.deep.equal(['core-insert-looks-up']);
    expect(
      await broken({
        'packages/core/src/insert/index.ts': 'export const a = 1;\n',
        'packages/core/src/checks/b.ts': "export { a } from '../insert/index.js';\n",
      }),
    ).to.deep.equal([]);
  });

  it('refuse circles, barrels from inside, folders without a layer, routes that know routes, and answers below http', async () => {
    expect(
      await broken({
        'packages/demo/src/a.ts': "import type { B } from './b.js';\nexport type A = B;\n",
        'packages/demo/src/b.ts': "import type { A } from './a.js';\nexport type B = A;\n",
      }),
    ).to.include('no-circle');
    expect(
      await broken({
        'packages/core/src/order/index.ts': 'export const a = 1;\n',
        'packages/core/src/order/b.ts': "export { a } from './index.js';\n",
      }),
    ).to.deep.equal(['barrel-from-inside']);
    expect(
      await broken({
        'packages/core/src/insert/index.ts': 'export const a = 1;\n',
        'packages/core/src/attic/b.ts': "export { a } from '../insert/index.js';\n",
      }),
    ).to.deep.equal(['core-folder-without-layer']);
    expect(
      await broken({
        'packages/server/src/routes/a.ts': "export { b } from './b.js';\n",
        'packages/server/src/routes/b.ts': 'export const b = 1;\n',
        'packages/server/src/site/c.ts': "export { d } from '../http/problems.js';\n",
        'packages/server/src/http/problems.ts': 'export const d = 1;\n',
      }),
    ).to.have.members(['answer-made-below-http', 'route-knows-route', 'server-site-looks-up']);
  });
});

function importedBy(folder: string): string[] {
  const root = `${CORE}/src/${folder}`;
  const files = readdirSync(root, { recursive: true, encoding: 'utf8' }).filter((name) =>
    name.endsWith('.ts'),
  );
  const found = new Set<string>();
  for (const file of files)
    for (const [, path] of readFileSync(join(root, file), 'utf8').matchAll(/from '(\.[^']*)'/g)) {
      const [other] = join(folder, dirname(file), path!).split('/');
      if (other !== undefined && other !== folder) found.add(other);
    }
  return [...found];
}
