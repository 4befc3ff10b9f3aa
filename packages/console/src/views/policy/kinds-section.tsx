import type { PolicyResource } from '@pragmatica/contract';
import { POLICY } from '../../texts/policy';
import { say } from '../../texts/say';
import { CopyText } from '../delivery/copy-text';
import { Section } from '../../ui/section';

/** The policy of each kind of page, whole, to read and to copy. */
export function KindsSection({ view: { kinds } }: { view: PolicyResource }) {
  if (kinds.length === 0) return undefined;
  return (
    <Section title={POLICY.kindsTitle} text={POLICY.kindsText}>
      {kinds.map(({ pages, example, policy }) => (
        <CopyText
          key={example}
          name={say(POLICY.kindName, { pages, example })}
          text={policy}
          isWrapped
          then={POLICY.copied}
        />
      ))}
    </Section>
  );
}
