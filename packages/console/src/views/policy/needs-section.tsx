import type { PolicyResource } from '@pragmatica/contract';
import { POLICY } from '../../texts/policy';
import { Section } from '../../ui/section';
import { Source } from './source';

/** What a policy has to allow for the snippets to work, and for which. */
export function NeedsSection({ view: { needs, release } }: { view: PolicyResource }) {
  if (release === null) return undefined;
  return (
    <Section title={POLICY.needsTitle} text={POLICY.needsText}>
      {needs.length === 0 ? (
        <p className="text-muted">{POLICY.needsNothing}</p>
      ) : (
        <div className="overflow-x-auto">
          <table className="w-full min-w-md text-left">
            <thead>
              <tr className="text-[13px] text-muted">
                <th className="py-1 pr-4 font-medium">{POLICY.snippets}</th>
                <th className="py-1 pr-4 font-medium">{POLICY.directive}</th>
                <th className="py-1 font-medium">{POLICY.source}</th>
              </tr>
            </thead>
            <tbody className="divide-y divide-line border-t border-line">
              {needs.map(({ directive, source, snippets }) => (
                <tr key={`${directive} ${source}`}>
                  <td className="py-1.5 pr-4">
                    {snippets.length === 0 ? POLICY.line : snippets.map(({ name }) => name).join(', ')}
                  </td>
                  <td className="py-1.5 pr-4 whitespace-nowrap">
                    <Source>{directive}</Source>
                  </td>
                  <td className="py-1.5">
                    {source.startsWith("'sha") ? (
                      <span title={source}>{POLICY.inline}</span>
                    ) : (
                      <Source>{source}</Source>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </Section>
  );
}
