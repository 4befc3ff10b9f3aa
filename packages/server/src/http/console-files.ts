import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { randomBytes } from 'node:crypto';
import { static as serveStatic, Router, type Response } from 'express';
import { activeTranslation, languageTag } from '@pragmatica/core';
import { PAGES_TEXTS } from '../texts/pages.js';
import { ServiceError } from '../errors.js';

/** Vite writes this into the page's script and style tags; each answer gets its own value instead. */
const NONCE_PLACEHOLDER = '__CSP_NONCE__';

/** Serves the built console: hashed files for ever, the page itself fresh with a nonce of its own. */
export function createConsoleRouter(folder: string): Router {
  const router = Router();
  const translation = activeTranslation();
  const indexFile = join(folder, 'index.html');
  const written = existsSync(indexFile) ? readFileSync(indexFile, 'utf8') : undefined;
  const page = written
    ?.replace('<html lang="en">', `<html lang="${languageTag()}">`)
    .replace('__NO_SCRIPT__', PAGES_TEXTS.needsScript);
  router.use(
    '/assets',
    serveStatic(join(folder, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }),
  );
  if (translation) router.get('/language.json', (_request, response) => void response.json(translation));
  router.use(serveStatic(folder, { index: false, maxAge: '1h' }));
  router.get(/^\/(?!api\/)/, (_request, response: Response) => {
    if (page === undefined) throw new ServiceError('console-not-built', {});
    response.setHeader('Cache-Control', 'no-store');
    response.type('html').send(page.replaceAll(NONCE_PLACEHOLDER, response.locals['nonce'] as string));
  });
  return router;
}

/** A fresh nonce (CSP 3, 2.3.1: at least 128 random bits). */
export function newNonce(): string {
  return randomBytes(18).toString('base64');
}
