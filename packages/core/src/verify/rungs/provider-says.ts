import { say } from '../../texts/say.js';
import { VISIT_TEXTS as T } from '../../texts/visit.js';
import { isOf } from '../attribution.js';
import type { Cause, RungCase } from './types.js';

/** What a snippet's own script says on the console of why it does nothing. */
export function providerSays({ load, attribution, snippet }: RungCase): Cause | undefined {
  const said = load.console
    .filter(({ level, stack }) => level !== 'info' && isOf(attribution.ofStack(stack), snippet))
    .map(({ text }) => text);
  if (said.length === 0) return undefined;
  return {
    id: 'provider-says',
    message: say(T.providerSays, { said: said[0]! }),
    advice: T.providerSaysAdvice,
    who: 'provider',
    evidence: said,
  };
}
