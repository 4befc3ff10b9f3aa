import { expect } from 'chai';
import { readFileSync, readdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

describe('the core package', () => {
  it('imports no other package of ours and nothing that only Node has', () => {
    const folder = fileURLToPath(new URL('../../packages/core/src', import.meta.url));
    const files = readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter((file) =>
      file.endsWith('.ts'),
    );
    expect(files.length).to.be.greaterThan(20);
    for (const file of files) {
      const imports = [...readFileSync(`${folder}/${file}`, 'utf8').matchAll(/from '([^']+)'/g)].map(
        (match) => match[1]!,
      );
      for (const name of imports) expect(name, file).not.to.match(/^(node:|@pragmatica\/)/);
    }
  });
});
