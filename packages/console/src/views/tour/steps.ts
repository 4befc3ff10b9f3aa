import { TOUR } from '../../texts/guided-tour';

/** One thing that a newcomer is shown. */
export interface TourStep {
  /** What is pointed at: the element with this `data-tour`. */
  readonly at: string;
  readonly title: string;
  readonly text: string;
  readonly path: (site: string) => string;
}

const inSite =
  (section: string) =>
  (site: string): string =>
    `/sites/${site}/${section}`;

/** The tour, in order. One more step is one more entry here, its words, and a `data-tour` where it points. */
export const TOUR_STEPS: readonly TourStep[] = [
  { at: 'sites', ...TOUR.steps.sites, path: () => '/' },
  { at: 'strip', ...TOUR.steps.strip, path: inSite('strip') },
  { at: 'snippets', ...TOUR.steps.snippets, path: inSite('snippets') },
  { at: 'findings', ...TOUR.steps.findings, path: inSite('findings') },
  { at: 'delivery', ...TOUR.steps.delivery, path: inSite('delivery') },
  { at: 'check', ...TOUR.steps.check, path: inSite('check/why') },
  { at: 'releases', ...TOUR.steps.releases, path: inSite('releases') },
  { at: 'help', ...TOUR.steps.help, path: () => '/help' },
];
