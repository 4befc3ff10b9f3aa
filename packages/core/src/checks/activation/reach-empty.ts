import {
  dayAt,
  hoursWords,
  onlyDates,
  pageRulesWords,
  type Dimension,
  type Hours,
} from '../../reach/index.js';
import { reachOf, type SnapshotSnippet } from '../../snapshot/index.js';
import { defineCheck } from '../check.js';

const CODE = '<meta name="a" content="b">';

export const reachEmpty = defineCheck({
  id: 'reach-empty',
  area: 'activation',
  severity: 'warning',
  title: 'A snippet never runs',
  why: 'It is on and looks active, but its reach leaves nothing: no page, no hour, or no device.',
  messages: {
    over: {
      title: '“{snippet}” has ended: its last day is past',
      advice: 'Its hours are {hours}. Choose new days, or switch it off.',
    },
    'never-open': {
      title: '“{snippet}” never opens',
      advice: 'Its hours are {hours}, and no coming day fits. Change its days or hours, or switch it off.',
    },
    'no-device': {
      title: '“{snippet}” runs on no device',
      advice: 'Choose at least one device, or switch it off.',
    },
    'no-window': {
      title: '“{snippet}” fits no window size',
      advice: 'Its minimum width is greater than its maximum. Change one of them.',
    },
    'no-page': {
      title: '“{snippet}” runs on no page',
      advice: 'Its rules are {rules}. Remove the page from those that are excluded.',
    },
    'no-page-of-environment': {
      title: '“{snippet}” runs on no page',
      advice:
        'Its rules are {rules}, and none of the site’s {environment} hosts has such a page. Change its pages or its environment.',
    },
  },
  isFixable: false,
  wrong: [
    {
      name: 'Pixel',
      include: ['/booking/*'],
      exclude: ['/*'],
      parts: [{ placement: 'head-end', code: CODE }],
    },
  ],
  right: [
    {
      name: 'Pixel',
      include: ['/booking', '/booking/*'],
      exclude: ['/booking/old'],
      parts: [{ placement: 'head-end', code: CODE }],
    },
  ],
  *run(set) {
    for (const snippet of set.snapshot.snippets) {
      if (snippet.state !== 'on') continue;
      const dimension = set.reaches.emptyFor(reachOf(snippet));
      if (dimension === undefined) continue;
      yield {
        about: dimension,
        message: messageOf(dimension, snippet, dayAt(set.now, set.snapshot.site.timeZone)),
        params: {
          snippet: snippet.name,
          hours: snippet.limits?.hours ? hoursWords(snippet.limits.hours) : '',
          rules: pageRulesWords(snippet.pages, set.snapshot.site.pageGroups),
          environment: snippet.limits?.environment ?? '',
        },
        subjects: [{ snippet: snippet.key, name: snippet.name }],
        evidence: [],
      };
    }
  },
});

/** @param today - the day at the site, `2027-03-31` */
function messageOf(dimension: Dimension, { limits }: SnapshotSnippet, today: string) {
  switch (dimension) {
    case 'hours':
      return limits?.hours && isOver(limits.hours, today) ? 'over' : 'never-open';
    case 'device':
      return 'no-device';
    case 'window':
      return 'no-window';
    case 'environment':
      return 'no-page-of-environment';
    default:
      return 'no-page';
  }
}

/** Whether all days that hours name have been; hours that never open on the days to come are another matter. */
function isOver(hours: Hours, today: string): boolean {
  if (hours.last !== undefined && hours.last < today) return true;
  const dates = onlyDates(hours) ?? [];
  return dates.length > 0 && dates.every((date) => date < today);
}
