import type { Ask, Unknown } from '@pragmatica/core';
import { Link } from 'react-router';
import { FINDINGS } from '../../texts/findings';
import { say } from '../../texts/say';

const WORDS = {
  survey: FINDINGS.unknownSurvey,
  files: FINDINGS.unknownFiles,
  hosts: FINDINGS.unknownHosts,
  recipes: FINDINGS.unknownRecipes,
} as const satisfies Record<Ask, string>;

/** Where what is not known can be found out, relative to the findings. */
const LINKS: Partial<Record<Ask, { readonly to: string; readonly label: string }>> = {
  survey: { to: '../survey', label: FINDINGS.toSurvey },
};

/** What the checks could not know: that nothing was found there says nothing. */
export function UnknownSection({ unknown }: { unknown: readonly Unknown[] }) {
  if (unknown.length === 0) return null;
  return (
    <section aria-label={FINDINGS.notKnown} className="space-y-2 border-t border-line pt-4">
      <h2 className="text-base">{FINDINGS.notKnown}</h2>
      <ul className="space-y-1 text-sm text-muted">
        {unknown.map(({ ask, checks }) => {
          const link = LINKS[ask];
          return (
            <li key={ask}>
              {say(WORDS[ask], { checks: checks.length })}{' '}
              {link && (
                <Link to={link.to} className="text-primary underline">
                  {link.label}
                </Link>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
