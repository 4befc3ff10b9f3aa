import { evidence, nameOf, subject } from '../checked-set.js';
import type { Check } from '../types.js';

export const settingsAfterLoader: Check = {
  id: 'settings-after-loader',
  area: 'order',
  severity: 'warning',
  title: 'Settings after the script that reads them',
  why: 'A script that is fetched at its place runs before the code after it. Settings that stand behind it come too late and are not seen.',
  wrong: [
    {
      name: 'Chat',
      parts: [
        {
          placement: 'body-end',
          code: '<script src="https://parlanook.example/chat.js"></script>\n<script>window.parlanook = { room: \'harbour\' };</script>',
        },
      ],
    },
  ],
  right: [
    {
      name: 'Chat',
      parts: [
        {
          placement: 'body-end',
          code: '<script>window.parlanook = { room: \'harbour\' };</script>\n<script src="https://parlanook.example/chat.js"></script>',
        },
      ],
    },
  ],
  *run(set) {
    for (const part of set.running) {
      for (const settings of part.facts.settings) {
        const loader = part.facts.loads.find(
          ({ kind, mode, range, address }) =>
            kind === 'script' &&
            mode === 'blocking' &&
            range.end <= settings.range.start &&
            isAbout(settings.name, address),
        );
        if (!loader) continue;
        yield {
          about: settings.name,
          title: `${nameOf(part)} gives its settings after its script`,
          advice: 'Put the script with the settings in front of the one with the address.',
          subjects: [subject(part)],
          evidence: [
            evidence(part, loader.range, 'runs first'),
            evidence(part, settings.range, 'the settings come after it'),
          ],
        };
      }
    }
  },
};

/** Settings and script that share a word belong together: `parlanookSettings` and `cdn.parlanook.example`. */
function isAbout(name: string, address: string): boolean {
  const words = name
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .split(/[^A-Za-z0-9]+/)
    .map((word) => word.toLowerCase())
    .filter((word) => word.length >= 4 && !/^(settings|config|options|data|layer)$/.test(word));
  return words.some((word) => address.toLowerCase().includes(word));
}
