import { parseFragment } from 'parse5';
import { hostOf, matchesIntegrity } from '../../facts/index.js';
import { attributeOf, isElement } from '../../html/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { exampleFile } from '../examples.js';
import { defineCheck } from '../check.js';

const FILE = 'https://files.example/deckhand-3.0.0.js';
const HASH = 'sha384-bmV3IGhhc2ggb2YgYSBmaWxlIHRoYXQgaGFzIGNoYW5nZWQgc2luY2UgdGhlbiE=';
const TAG = `<script defer src="${FILE}" integrity="${HASH}" crossorigin="anonymous"></script>`;

export const pinnedFileRefused = defineCheck({
  id: 'pinned-file-refused',
  area: 'safety',
  severity: 'error',
  title: 'Browsers refuse a pinned file',
  why: 'A fingerprint (integrity) in a tag says exactly which file may run. If the file differs, or cannot be compared, browsers do not run it.',
  asks: ['files'],
  messages: {
    changed: {
      title: '{part} loads a file that has changed since it was pinned',
      advice:
        'At the last survey {file} no longer matched the fingerprint in the tag, so browsers refuse it. Ask the provider whether they changed it. If they did, copy their tag again. If not, leave it: the fingerprint has just protected your visitors.',
    },
    unshared: {
      title: '{part} pins a file that cannot be compared',
      advice:
        'Browsers can compare files from other hosts only if the host allows it (Access-Control-Allow-Origin), and {file} came without that. Remove the integrity attribute, or host the file on your own server.',
    },
    uncrossed: {
      title: '{part} pins a file without crossorigin in its tag',
      advice:
        'To pin a file on another host, the tag needs crossorigin="anonymous". Without it, browsers refuse {file}.',
      fix: 'Add crossorigin="anonymous" to the tag.',
    },
  },
  roles: { tag: 'pinned here' },
  given: 'The last survey got the file that the fingerprint is of, and its server lets browsers compare it.',
  files: [exampleFile(FILE, { integrity: HASH, isShared: true })],
  isFixable: true,
  wrong: [
    { name: 'Slider', parts: [{ placement: 'body-end', code: TAG.replace(' crossorigin="anonymous"', '') }] },
  ],
  right: [{ name: 'Slider', parts: [{ placement: 'body-end', code: TAG }] }],
  *run(set) {
    for (const part of set.running)
      for (const { kind, by, address, range, noScript } of part.facts.loads) {
        if (by !== 'tag' || noScript || (kind !== 'script' && kind !== 'style')) continue;
        const text = part.code.slice(range.start, range.end);
        const [element] = parseFragment(text).childNodes.filter(isElement);
        const integrity = element && attributeOf(element, 'integrity');
        if (integrity === undefined || integrity.trim() === '') continue;
        const about = {
          about: address,
          params: { part: partName(part), file: address },
          subjects: [subject(part)],
          evidence: [evidence(part, range, 'tag')],
        };
        const isElsewhere = !set.isOwnHost(hostOf(address));
        if (isElsewhere && attributeOf(element!, 'crossorigin') === undefined) {
          const at = range.start + 1 + element!.tagName.length;
          const code = `${part.code.slice(0, at)} crossorigin="anonymous"${part.code.slice(at)}`;
          yield { ...about, message: 'uncrossed', fix: [{ kind: 'edit-code', part: part.key, code }] };
          continue;
        }
        const file = set.files.find(address);
        if (file?.integrity === undefined || file.integrity === null) continue;
        // What a survey saw may be another by now: it is told, and keeps nobody from publishing.
        const message = isElsewhere && file.isShared !== true ? 'unshared' : 'changed';
        if (message === 'unshared' || !matchesIntegrity(integrity, file.integrity))
          yield { ...about, message, severity: 'warning' };
      }
  },
});
