import { isAboutSettings } from '../../facts/index.js';
import { partName } from '../../snapshot/index.js';
import { evidence, subject } from '../evidence.js';
import { NO_MOVES, ORDER_FIX } from '../set-order.js';
import { defineCheck } from '../check.js';

export const settingsAfterLoader = defineCheck({
  id: 'settings-after-loader',
  area: 'order',
  severity: 'warning',
  title: 'Settings come after the script that reads them',
  why: 'A script loaded in place runs before the code below it. Settings that come after it are too late and have no effect.',
  messages: {
    'same-snippet': {
      title: '{settings} has its settings after its script',
      advice: 'Move the script with the settings above the one with the address.',
    },
    late: {
      title: '{settings} comes after the script that reads it',
      advice: 'Move {settings} above {loader}.',
      fix: ORDER_FIX,
    },
    race: {
      title: '{settings} may come after the script that reads it',
      advice: 'Move {settings} above {loader}.',
      fix: ORDER_FIX,
    },
  },
  roles: {
    first: 'runs first',
    'any-time': 'runs as soon as it arrives',
    settings: 'the settings come after it',
  },
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
          message: 'same-snippet',
          params: { settings: partName(part) },
          subjects: [subject(part)],
          evidence: [evidence(part, loader.range, 'first'), evidence(part, settings.range, 'settings')],
        };
      }
    }
  },
  *runOnWhole(set) {
    for (const dependency of set.order.dependencies) {
      const { first, then, reason, verdict } = dependency;
      if (reason.kind !== 'settings' || verdict === 'fine') continue;
      const fix = set.order.fixFor(dependency);
      yield {
        about: `${reason.name} ${first.key}`,
        message: verdict === 'wrong' ? 'late' : 'race',
        params: { settings: partName(first), loader: partName(then), ...NO_MOVES, ...fix?.params },
        subjects: [subject(first), subject(then)],
        evidence: [
          evidence(then, reason.load.range, verdict === 'wrong' ? 'first' : 'any-time'),
          evidence(first, reason.settings.range, 'settings'),
        ],
        ...(fix ? { fix: fix.fix } : {}),
      };
    }
  },
});
