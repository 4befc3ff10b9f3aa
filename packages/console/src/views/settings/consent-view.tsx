import type { ConsentRules } from '@pragmatica/core';
import { ConsentEditor } from './consent-editor';
import { SettingsPart } from './settings-part';

/** What the site asks its visitors, and where their answer is read. */
export function ConsentView() {
  return (
    <div className="max-w-4xl">
      <SettingsPart<{ consent: ConsentRules | null }>
        read={({ consent }) => ({ consent })}
        toPatch={({ consent }) => ({
          consent: consent && { ...consent, categories: [...consent.categories] },
        })}
      >
        {({ value, set, errorAt }) => (
          <ConsentEditor consent={value.consent} onChange={(consent) => set({ consent })} errorAt={errorAt} />
        )}
      </SettingsPart>
    </div>
  );
}
