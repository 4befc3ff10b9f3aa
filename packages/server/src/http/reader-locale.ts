import { readerLocale } from '@pragmatica/core';
import type { Request } from 'express';

/** Where whoever asks lives, by the languages that they take (RFC 9110, 12.5.4). */
export function localeOf(request: Pick<Request, 'acceptsLanguages'>): string {
  return readerLocale(request.acceptsLanguages());
}
