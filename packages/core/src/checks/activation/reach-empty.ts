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
  title: 'A snippet that never runs',
  why: 'It is switched on and looks active, but its reach holds no page load at all: no page, no hour, or no device.',
  messages: {
    over: {
      title: '“{snippet}” is over: its last day has been',
      advice: 'Its hours say: {hours}. Give it new days, or switch it off.',
    },
    'never-open': {
      title: '“{snippet}” never opens',
      advice:
        'Its hours say: {hours}. On no day to come is it open. Change its days or its hours, or switch it off.',
    },
    'no-device': {
      title: '“{snippet}” is for no device',
      advice: 'Choose a device that it runs on, or switch it off.',
    },
    'no-window': {
      title: '“{snippet}” fits into no window',
      advice: 'Its least width is greater than its greatest. Change one of the two.',
    },
    'no-page': {
      title: '“{snippet}” runs on no page',
      advice: 'Its rules say: {rules}. Take the page out of those that are left out.',
    },
    'no-page-of-environment': {
      title: '“{snippet}” runs on no page',
      advice:
        'Its rules say: {rules}. None of the site’s {environment} hosts has such a page. Change its pages or its environment.',
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
