import type { PreviewResource } from '@pragmatica/contract';
import { useMutation } from '@tanstack/react-query';
import { api } from './client';

export interface PreviewWish {
  readonly host?: string | undefined;
  readonly environment: 'live' | 'staging';
  readonly path: string;
  readonly hours: number;
}

/** Makes an address for people; nothing of the site changes. */
export function useMakePreview(site: string) {
  return useMutation({
    mutationFn: async (wish: PreviewWish): Promise<PreviewResource> =>
      (await api.call('makePreview', { params: { site }, body: wish })).data,
  });
}
