import type { PageGroup } from '@pragmatica/core';
import { useSiteKey } from '../../layout/site-layout';
import { PageGroupsEditor } from './page-groups-editor';
import { SettingsPart } from './settings-part';

/** Pages that belong together, under a name. */
export function PageGroupsView() {
  const key = useSiteKey();
  return (
    <div className="max-w-4xl">
      <SettingsPart<{ pageGroups: readonly PageGroup[] }>
        read={({ pageGroups }) => ({ pageGroups })}
        toPatch={({ pageGroups }) => ({
          pageGroups: pageGroups.map((group) => ({ ...group, patterns: [...group.patterns] })),
        })}
      >
        {({ value, set, errorAt }) => (
          <PageGroupsEditor
            site={key}
            groups={value.pageGroups}
            onChange={(pageGroups) => set({ pageGroups })}
            errorAt={errorAt}
          />
        )}
      </SettingsPart>
    </div>
  );
}
