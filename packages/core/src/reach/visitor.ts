import { REACH_TEXTS } from '../texts/reach.js';
import { say } from '../texts/say.js';
/** What only the visitor's browser can know; a small script around the parts waits for it. */
export interface VisitorRules {
  /** Somebody who is here for the first time, or who has been before. */
  readonly who?: 'first' | 'returning';
  readonly afterSeconds?: number;
  /** How much of the page has been scrolled into sight, in percent. */
  readonly afterScroll?: number;
  /** When the pointer leaves the page towards the top, as on its way to close it. */
  readonly onLeaving?: boolean;
  /** At most once in so many days for one visitor; 0 is every time. */
  readonly everyDays?: number;
  /** Width of the window in CSS pixels. */
  readonly minWidth?: number;
  readonly maxWidth?: number;
}

/** Whether there is anything to wait for. */
export function isLimited(visitor: VisitorRules | undefined): visitor is VisitorRules {
  if (!visitor) return false;
  const { who, afterSeconds = 0, afterScroll = 0, onLeaving = false, everyDays = 0, minWidth = 0 } = visitor;
  return (
    who !== undefined ||
    afterSeconds > 0 ||
    afterScroll > 0 ||
    onLeaving ||
    everyDays > 0 ||
    minWidth > 0 ||
    visitor.maxWidth !== undefined
  );
}

/** Whether it may never come in a page load that goes on for as long as it likes, or not this time. */
export function mayNotCome(visitor: VisitorRules | undefined): boolean {
  const { afterScroll = 0, onLeaving = false, everyDays = 0 } = visitor ?? {};
  return afterScroll > 0 || onLeaving || everyDays > 0;
}

/** "for returning visitors, after 5 seconds, at most once in 7 days". */
export function visitorWords(visitor: VisitorRules): string {
  const { who, minWidth = 0, maxWidth } = visitor;
  return [
    who === undefined ? '' : who === 'first' ? REACH_TEXTS.firstVisit : 'for visitors who have been before',
    minWidth > 0 && maxWidth !== undefined
      ? say(REACH_TEXTS.windowsMinwidthMaxwidth, { minWidth, maxWidth })
      : minWidth > 0
        ? say(REACH_TEXTS.windowsLeastMinwidth, { minWidth })
        : maxWidth === undefined
          ? ''
          : say(REACH_TEXTS.windowsMostMaxwidth, { maxWidth }),
    waitWords(visitor),
    frequencyWords(visitor),
  ]
    .filter(Boolean)
    .join(', ');
}

/** What the browser waits for: "after 5 seconds and once half the page was seen". */
export function waitWords({ afterSeconds = 0, afterScroll = 0, onLeaving = false }: VisitorRules): string {
  return [
    afterSeconds > 0 ? `after ${afterSeconds === 1 ? '1 second' : `${afterSeconds} seconds`}` : '',
    afterScroll > 0 ? say(REACH_TEXTS.onceAfterscrollPage, { afterScroll }) : '',
    onLeaving ? REACH_TEXTS.whenAboutLeave : '',
  ]
    .filter(Boolean)
    .join(' and ');
}

function frequencyWords({ everyDays = 0 }: VisitorRules): string {
  if (everyDays <= 0) return '';
  return everyDays === 1 ? REACH_TEXTS.mostOnceDay : say(REACH_TEXTS.mostOnceEverydays, { everyDays });
}
