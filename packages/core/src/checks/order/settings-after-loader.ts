import { isAboutSettings } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import type { Check } from '../check.js';

export const settingsAfterLoader: Check = {
  id: 'settings-after-loader',
  area: 'order',
  severity: 'warning',
  title: 'Settings after the script that reads them',
  why: 'A script that is fetched at its place runs before the code after it. Settings that stand behind it come too late and are not seen.',
  isFixable: true,
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
    {
      name: 'Menu',
      parts: [{ placement: 'body-end', code: '<script src="https://easewheel.example/menu.js"></script>' }],
    },
    {
      name: 'Menu settings',
      parts: [
        { placement: 'body-end', code: "<script>window.easewheel = { corner: 'bottom left' };</script>" },
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
            isAboutSettings(settings.name, address),
        );
        if (!loader) continue;
        yield {
          about: settings.name,
          title: `${partName(part)} gives its settings after its script`,
          advice: 'Put the script with the settings in front of the one with the address.',
          subjects: [subject(part)],
          evidence: [
            evidence(part, loader.range, 'runs first'),
            evidence(part, settings.range, 'the settings come after it'),
          ],
        };
      }
    }
    for (const dependency of set.order.dependencies) {
      const { first, then, reason, verdict } = dependency;
      if (reason.kind !== 'settings' || verdict === 'fine') continue;
      const [settings, loader] = [partName(first), partName(then)];
      const fix = set.order.fixFor(dependency);
      yield {
        about: `${reason.name} ${first.key}`,
        title:
          verdict === 'wrong'
            ? `${settings} comes after the script that reads it`
            : `${settings} may come after the script that reads it`,
        advice: `Move ${settings} in front of ${loader}.`,
        subjects: [subject(first), subject(then)],
        evidence: [
          evidence(
            then,
            reason.load.range,
            verdict === 'wrong' ? 'runs first' : 'runs as soon as it arrives',
          ),
          evidence(first, reason.settings.range, 'the settings come after it'),
        ],
        ...(fix ? { fix } : {}),
      };
    }
  },
};
