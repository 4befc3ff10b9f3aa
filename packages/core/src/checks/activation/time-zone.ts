import { defineCheck } from '../check.js';
import type { CheckedSet } from '../checked-set.js';

const CODE = '<script async src="https://parlanook.example/chat.js"></script>';
const HOURS = { hours: { weekly: { mon: [{ from: '09:00', to: '17:00' }] } } };

export const timeZoneCheck = defineCheck({
  id: 'time-zone',
  area: 'activation',
  severity: 'advice',
  title: 'Hours on a site with no time zone of its own',
  why: 'Hours follow the site’s time zone. In UTC, a chat meant to open at nine may open in the middle of the night, and in most of Europe it is an hour off for half the year.',
  asks: ['hosts'],
  messages: {
    utc: {
      title: 'The hours of {snippets} are in UTC',
      advice: 'The site’s time zone was never set. Choose yours in the settings.',
    },
    'other-zone': {
      title: 'The hours of {snippets} are in UTC, but the site is elsewhere',
      advice: '“{sign}” mentions the time zone {zone}. Choose the site’s zone in the settings.',
    },
    'other-country': {
      title: 'The hours of {snippets} are in UTC, but the site is elsewhere',
      advice: '{sign} belongs to a country in another time zone. Choose the site’s zone in the settings.',
    },
  },
  isFixable: false,
  wrong: [{ name: 'Harbour chat', limits: HOURS, parts: [{ placement: 'body-end', code: CODE }] }],
  right: [{ name: 'Harbour chat', parts: [{ placement: 'body-end', code: CODE }] }],
  *runOnWhole(set) {
    if (!/^(?:UTC|Etc\/(?:UTC|GMT|UCT|Zulu)|GMT|Zulu|UCT)$/i.test(set.snapshot.site.timeZone)) return;
    const timed = set.snapshot.snippets.filter(
      ({ state, limits }) => state === 'on' && limits?.hours?.weekly,
    );
    if (timed.length === 0) return;
    const sign = signOf(set);
    yield {
      about: 'utc',
      message: sign?.zone !== undefined ? 'other-zone' : sign ? 'other-country' : 'utc',
      params: {
        snippets: timed.map(({ name }) => `“${name}”`),
        sign: sign?.sign ?? '',
        zone: sign?.zone ?? '',
      },
      subjects: timed.map(({ key, name }) => ({ snippet: key, name })),
      evidence: [],
      severity: sign ? 'warning' : 'advice',
    };
  },
});

/** Countries whose clocks show UTC for at least half of the year, and domains that anybody may have. */
const UTC_OR_ANYWHERE =
  /\.(?:uk|gb|ie|pt|is|im|je|gg|fo|gh|ci|sn|ml|bf|tg|gm|gn|gw|lr|sl|mr|st|sh|ac|io|co|tv|me|ai|fm|to|cc|ws|ly|eu|ma|eh)$/;

/** What shows that the site is not where clocks show UTC. */
function signOf(set: CheckedSet): { readonly sign: string; readonly zone?: string } | undefined {
  for (const part of set.running) {
    const { timeZone: zone } = part.facts;
    if (zone !== undefined) return { sign: part.snippet.name, zone };
  }
  const host = set.hostsOf('live').find((one) => /\.[a-z]{2}$/.test(one) && !UTC_OR_ANYWHERE.test(one));
  return host === undefined ? undefined : { sign: host };
}
