import { hostOf, integrityToWrite, versionedFile } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { exampleFile } from '../examples.js';
import { defineCheck } from '../check.js';

const FILE = 'https://files.example/deckhand-3.0.0.js';
const HASH = 'sha384-aGFzaCBvZiBhIGZpbGUgdGhhdCBuZXZlciBjaGFuZ2VzLCBhcyBpdHMgbmFtZSE=';

export const unpinnedFile = defineCheck({
  id: 'unpinned-file',
  area: 'safety',
  severity: 'advice',
  title: 'A versioned file from elsewhere is not pinned',
  why: 'A file with a version in its name never changes, so the tag can carry its fingerprint. Without it, anybody who breaks into that server can put anything on your pages.',
  messages: {
    unpinned: {
      title: '{part} loads “{library}” {version} without its fingerprint',
      advice: 'Get the tag with integrity="…" from the provider’s page, or host the file on your own server.',
    },
    pinnable: {
      title: '{part} loads “{library}” {version} without its fingerprint',
      advice:
        'Pin it to the file that the last survey fetched: if anybody changes it, browsers refuse it and you are told.',
      fix: 'Add its fingerprint to the tag.',
    },
  },
  roles: {
    tag: 'no integrity="…"',
  },
  given: 'The last survey got the file, and its server lets browsers compare it.',
  files: [exampleFile(FILE, { integrity: HASH, isShared: true })],
  isFixable: true,
  wrong: [
    {
      name: 'Slider',
      parts: [
        {
          placement: 'body-end',
          code: `<script defer src="${FILE}"></script>`,
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
          code: `<script defer src="${FILE}" integrity="${HASH}" crossorigin></script>`,
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
        const about = {
          about: address,
          params: { part: partName(part), library: file.library, version: file.version },
          subjects: [subject(part)],
          evidence: [evidence(part, range, 'tag')],
        };
        const known = set.files.find(address);
        const integrity = known?.isShared === true ? integrityToWrite(known.integrity ?? '') : undefined;
        if (integrity === undefined) {
          yield { ...about, message: 'unpinned' };
          continue;
        }
        const at = range.start + '<script'.length;
        const code = `${part.code.slice(0, at)} integrity="${integrity}" crossorigin="anonymous"${part.code.slice(at)}`;
        yield { ...about, message: 'pinnable', fix: [{ kind: 'edit-code', part: part.key, code }] };
      }
    }
  },
});
