import { readFileSync } from 'node:fs';
import { expect } from 'chai';
import { fileURLToPath } from 'node:url';
import { insertionFault, withoutMark } from '../support/check-insertion.js';
import { htmlFiles } from '../support/real-pages.js';

const DEMO = fileURLToPath(new URL('../../packages/demo/pages', import.meta.url));

/** Folders of HTML, with `:` between them, such as those of documentation packages: `REAL_PAGES=/usr/share/doc npm test`. */
const folders = [DEMO, ...(process.env['REAL_PAGES'] ?? '').split(':').filter(Boolean)];

describe('insertion into real pages', () => {
  for (const folder of folders) {
    it(`changes nothing but what it puts in${folder === DEMO ? '' : ` (${folder})`}`, function () {
      this.timeout(0);
      const files = htmlFiles([folder]);
      expect(files.length).to.be.greaterThan(0);
      for (const file of files)
        expect(insertionFault(withoutMark(readFileSync(file)), [777, 5, 4096]), file).to.equal(undefined);
    });
  }
});
