import type { SurveyedPage } from '../../api/surveys';
import { say } from '../../texts/say';
import { SURVEY } from '../../texts/survey';

/** What became of a visit, where it was not simply read; undefined where it was. */
export function outcomeWords({ outcome, status, leadsTo }: SurveyedPage): string | undefined {
  switch (outcome) {
    case null:
      return SURVEY.outcomeWaiting;
    case 'redirect':
      return say(SURVEY.outcomeRedirect, { target: leadsTo ?? '' });
    case 'not-html':
      return say(SURVEY.outcomeNotHtml, { type: leadsTo ?? '' });
    case 'too-large':
      return SURVEY.outcomeTooLarge;
    case 'unreadable':
      return SURVEY.outcomeUnreadable;
    case 'unreachable':
      return SURVEY.outcomeUnreachable;
    case 'forbidden':
      return SURVEY.outcomeForbidden;
    case 'error':
      return say(SURVEY.outcomeError, { status: status ?? 0 });
    case 'read':
      if (status !== null && status >= 400) return say(SURVEY.outcomeError, { status });
      return leadsTo === null ? undefined : say(SURVEY.outcomeRedirect, { target: leadsTo });
  }
}

/** Whether somebody should look at it. */
export function isProblem({ outcome, status }: SurveyedPage): boolean {
  return outcome !== null && outcome !== 'redirect' && (outcome !== 'read' || (status ?? 0) >= 400);
}
