import type { ImportInput, SiteFile } from '@pragmatica/contract';
import { siteFileText } from '@pragmatica/contract';
import { api } from './client';
import { useSiteChange } from './mutations';

/** The whole site as the text of a file. */
export async function siteText(site: string): Promise<string> {
  return siteFileText((await api.call('exportSite', { params: { site } })).data);
}

/** What a set would change in a draft, and which draft that is. */
export async function previewImport(site: string, set: ImportInput['set']) {
  const { etag } = await api.call('showDraft', { params: { site } });
  const { data } = await api.call('importSet', {
    params: { site },
    ifMatch: etag,
    body: { set, preview: true },
  });
  return { preview: data, etag };
}

export function useImportSet(site: string) {
  return useSiteChange(site, ({ set, etag }: { set: ImportInput['set']; etag: string }) =>
    api.call('importSet', { params: { site }, ifMatch: etag, body: { set } }),
  );
}

export interface SiteImport {
  readonly file: SiteFile;
  readonly key?: string;
  readonly withHosts: boolean;
  readonly preview: boolean;
}

export async function importSite(body: SiteImport) {
  return (await api.call('importSite', { body })).data;
}
