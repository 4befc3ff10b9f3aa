import { say } from '../texts/say.js';
import { STEP_TEXTS } from '../texts/visit-steps.js';
import type { VisitStep } from './script.js';

/** What somebody does, in words: "waits 5 seconds". */
export function stepWords(step: VisitStep): string {
  switch (step.do) {
    case 'open':
      return say(STEP_TEXTS.open, { path: step.path });
    case 'wait':
      return say(STEP_TEXTS.wait, { seconds: step.seconds });
    case 'scroll':
      return say(STEP_TEXTS.scroll, { percent: step.percent });
    case 'leave':
      return STEP_TEXTS.leave;
    case 'consent':
      return step.choice === 'accept' ? STEP_TEXTS.accept : STEP_TEXTS.refuse;
    case 'return':
      return say(STEP_TEXTS.return, { path: step.path, days: step.days });
    case 'click':
      return say(STEP_TEXTS.click, { selector: step.selector });
    case 'move-on':
      return say(STEP_TEXTS.moveOn, { path: step.path });
  }
}
