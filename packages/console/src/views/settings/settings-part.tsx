import type { SitePatch, SiteResource } from '@pragmatica/contract';
import { useQuery } from '@tanstack/react-query';
import { useCallback, useState, type ReactNode } from 'react';
import { hasFailed } from '../../api/failed';
import { fieldErrorsOf, type FieldErrors } from '../../api/field-errors';
import { useEditSite } from '../../api/mutations';
import { siteQuery } from '../../api/queries';
import { useSiteKey } from '../../layout/site-layout';
import { SETTINGS } from '../../texts/settings';
import { Button } from '../../ui/button';
import { FormError } from '../../ui/field';
import { Failure, Loading } from '../../ui/states';
import { useToast } from '../../ui/toast';
import { UnsavedGuard } from '../../ui/unsaved-guard';

interface SettingsPartProps<Value> {
  /** What this part edits. */
  readonly read: (site: SiteResource) => Value;
  readonly toPatch: (value: Value) => SitePatch;
  /** Whether visitors get it at once; otherwise with the next release. */
  readonly isAtOnce?: boolean;
  /** The right that saving takes. */
  readonly needs?: 'edit' | 'own';
  readonly children: (part: EditedPart<Value>) => ReactNode;
}

export interface EditedPart<Value> {
  readonly value: Value;
  readonly set: (change: Partial<Value>) => void;
  readonly errorAt: FieldErrors['at'];
  readonly site: SiteResource;
}

/** One subject of a site's settings, with its own save. */
export function SettingsPart<Value extends object>(props: SettingsPartProps<Value>) {
  const site = useQuery({ ...siteQuery(useSiteKey()), refetchOnWindowFocus: false });
  if (hasFailed(site)) return <Failure error={site.error} onRetry={() => void site.refetch()} />;
  if (!site.data) return <Loading lines={3} label={SETTINGS.loadingSettings} />;
  const { data, etag } = site.data;
  // What another part saves leaves this one as it is typed.
  return <PartForm key={JSON.stringify(props.read(data))} {...props} site={data} etag={etag} />;
}

function PartForm<Value extends object>({
  read,
  toPatch,
  isAtOnce = false,
  needs = 'edit',
  children,
  site,
  etag,
}: SettingsPartProps<Value> & { readonly site: SiteResource; readonly etag: string }) {
  const edit = useEditSite(site.key);
  const toast = useToast();
  const [value, setValue] = useState<Value>(() => read(site));
  const isChanged = JSON.stringify(value) !== JSON.stringify(read(site));
  const isUnsaved = useCallback(() => isChanged, [isChanged]);
  const errors = fieldErrorsOf(edit.error);
  const effect = isAtOnce ? SETTINGS.effectAtOnce : SETTINGS.effectOnPublish;
  return (
    <form
      className="space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        edit.run({ etag, body: toPatch(value) }, () =>
          toast({ tone: 'done', title: SETTINGS.settingsSaved, text: effect }),
        );
      }}
    >
      {children({
        value,
        set: (change) => setValue((current) => ({ ...current, ...change })),
        errorAt: errors.at,
        site,
      })}
      <FormError error={errors.isEmpty ? edit.error : undefined} />
      <div className="flex flex-wrap items-center gap-3">
        <Button type="submit" look="primary" needs={needs} isBusy={edit.isPending} disabled={!isChanged}>
          {SETTINGS.save}
        </Button>
        <p className="text-sm text-muted">{effect}</p>
      </div>
      <UnsavedGuard isUnsaved={isUnsaved} />
    </form>
  );
}
