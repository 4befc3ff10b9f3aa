import { hostOf, versionedFile } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { defineCheck } from '../check.js';

export const unpinnedFile = defineCheck({
  id: 'unpinned-file',
  area: 'safety',
  severity: 'advice',
  title: 'A fixed file from elsewhere without its fingerprint',
  why: 'A file with a version in its name never changes, so the tag can carry its fingerprint. Without it, whoever gets hold of that server can put anything into your pages.',
  messages: {
    unpinned: {
      title: '{part} loads “{library}” {version} without its fingerprint',
      advice: 'Ask the provider’s page for the tag with integrity="…", or keep the file on your own server.',
    },
  },
  roles: {
    tag: 'no integrity="…"',
  },
  isFixable: false,
  wrong: [
    {
      name: 'Slider',
      parts: [
        {
          placement: 'body-end',
          code: '<script defer src="https://files.example/deckhand-3.0.0.js"></script>',
        },
      ],
    },
  ],
  right: [
    {
      name: 'Slider',
      parts: [
        {
          placement: 'body-end',
          code: '<script defer src="https://files.example/deckhand-3.0.0.js" integrity="sha256-n0p1q2r3" crossorigin></script>',
        },
      ],
    },
    {
      name: 'Counter',
      parts: [
        { placement: 'body-end', code: '<script async src="https://tallymast.example/count.js"></script>' },
      ],
    },
  ],
  *run(set) {
    for (const part of set.running) {
      for (const { kind, by, address, range, noScript } of part.facts.loads) {
        if (kind !== 'script' || by !== 'tag' || noScript || hostOf(address) === undefined) continue;
        const file = versionedFile(address);
        // Subresource Integrity, 3.5: the attribute on the tag.
        if (!file || /\bintegrity\s*=/i.test(part.code.slice(range.start, range.end))) continue;
        yield {
          about: address,
          message: 'unpinned',
          params: { part: partName(part), library: file.library, version: file.version },
          subjects: [subject(part)],
          evidence: [evidence(part, range, 'tag')],
        };
      }
    }
  },
});
