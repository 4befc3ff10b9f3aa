import type { RoundDetail } from '../../api/visits';
import { VISITS } from '../../texts/visits';
import { Section } from './section';
import { whoName } from './owner-name';

type Stage = RoundDetail['summary']['stages'][number];

const TITLES: Record<Stage['stage'], string> = {
  before: VISITS.before,
  refused: VISITS.refused,
  accepted: VISITS.accepted,
};

/** Who keeps what, and asks whom, by what the visitor has said. */
export function ConsentSection({ stages }: { stages: readonly Stage[] }) {
  const shown = stages.filter(({ stage }) => stage !== 'accepted');
  if (shown.length === 0) return null;
  return (
    <Section title={VISITS.consent} lead={VISITS.consentLead}>
      <div className="-mx-4 space-y-4 overflow-x-auto px-4">
        {shown.map(({ stage, disclosures }) => (
          <table key={stage} className="w-full text-sm">
            <caption className="pb-1 text-left text-sm font-semibold">{TITLES[stage]}</caption>
            <thead>
              <tr className="border-b border-line text-left text-[13px] text-muted">
                <th className="w-1/4 py-1 pr-3 font-medium">{VISITS.who}</th>
                <th className="w-1/3 pr-3 font-medium">{VISITS.keeps}</th>
                <th className="font-medium">{VISITS.asks}</th>
              </tr>
            </thead>
            <tbody>
              {disclosures.map(({ snippet, name, stored, hosts }) => (
                <tr key={String(snippet)} className="border-b border-line align-top last:border-0">
                  <th scope="row" className="py-1.5 pr-3 text-left font-medium">
                    {whoName({ snippet, name })}
                  </th>
                  <td className="py-1.5 pr-3">
                    {stored.length === 0 && <span className="text-muted">{VISITS.nothing}</span>}
                    {stored.map(({ where, key }) => (
                      <div key={`${where} ${key}`}>
                        <span className="font-mono text-xs">{key}</span>{' '}
                        <span className="text-xs text-muted">{where}</span>
                      </div>
                    ))}
                  </td>
                  <td className="py-1.5 font-mono text-xs break-all text-muted">
                    {hosts.map(({ host }) => host).join(', ') || VISITS.nothing}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        ))}
      </div>
    </Section>
  );
}
