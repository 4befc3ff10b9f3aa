import type { PolicyResource } from '@pragmatica/contract';
import { POLICY } from '../../texts/policy';
import { say } from '../../texts/say';
import { Section } from '../../ui/section';
import { Source } from './source';

/** The policies that pages come with already, and what they do to the snippets. */
export function PresentSection({ view: { present, canSend, survey } }: { view: PolicyResource }) {
  if (!survey) return undefined;
  return (
    <Section title={POLICY.presentTitle}>
      {present.length === 0 && <p className="text-muted">{POLICY.presentNone}</p>}
      {present.map(({ value, from, isReportOnly, pages, example, stopped, needNonce, added }, index) => (
        <div key={index} className="space-y-1">
          <p>
            <span className="font-medium">{say(POLICY.presentPages, { pages, example })}</span>{' '}
            <span className="text-muted">
              {from === 'header' ? POLICY.fromHeader : POLICY.fromMeta}
              {isReportOnly && `, ${POLICY.onTrial}`}
            </span>
          </p>
          <pre className="overflow-auto rounded-md border border-line bg-raised px-3 py-2 font-mono text-xs whitespace-pre-wrap">
            {value}
          </pre>
          {stopped.length > 0 && (
            <p className="text-danger">{say(POLICY.stops, { names: namesOf(stopped) })}</p>
          )}
          {needNonce.length > 0 && <p>{say(POLICY.needsNonce, { names: namesOf(needNonce) })}</p>}
          {stopped.length + needNonce.length === 0 && <p className="text-good">{POLICY.fits}</p>}
          {from === 'meta' && canSend && stopped.length > 0 && <p>{POLICY.metaStays}</p>}
          {added.length > 0 && (
            <p className="text-[13px] text-muted">
              <Source>{say(POLICY.adds, { sources: addedWords(added) })}</Source>
            </p>
          )}
        </div>
      ))}
    </Section>
  );
}

function namesOf(snippets: readonly { readonly name: string }[]): readonly string[] {
  return snippets.map(({ name }) => name);
}

/** Sources by directive, each directive once. */
function addedWords(added: PolicyResource['present'][number]['added']): string {
  const directives = [...new Set(added.map(({ directive }) => directive))];
  return directives
    .map((name) => [name, ...added.flatMap((one) => (one.directive === name ? one.source : []))].join(' '))
    .join('; ');
}
