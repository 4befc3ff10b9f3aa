import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { randomBytes } from 'node:crypto';
import { static as serveStatic, Router, type Response } from 'express';
import { PAGES_TEXTS } from '../texts/pages.js';
import { ServiceError } from '../errors.js';
import { languageByTag } from '../language/languages.js';
import { speakIn } from '../language/speech.js';
import { languageFor } from '../language/language-of.js';

/** Vite writes this into the page's script and style tags; each answer gets its own value instead. */
const NONCE_PLACEHOLDER = '__CSP_NONCE__';

/** Serves the built console: hashed files for ever, the page itself fresh with a nonce of its own. */
export function createConsoleRouter(folder: string): Router {
  const router = Router();
  const indexFile = join(folder, 'index.html');
  const written = existsSync(indexFile) ? readFileSync(indexFile, 'utf8') : undefined;
  router.use(
    '/assets',
    serveStatic(join(folder, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }),
  );
  router.get('/languages/:tag.json', (request, response) => {
    const language = languageByTag(request.params.tag);
    if (!language) throw new ServiceError('nothing-at-path', { path: request.path });
    response.setHeader('Cache-Control', 'no-cache');
    response.json(language);
  });
  router.use(serveStatic(folder, { index: false, maxAge: '1h' }));
  router.get(/^\/(?!api\/)/, (request, response: Response) => {
    if (written === undefined) throw new ServiceError('console-not-built', {});
    const language = languageFor(request);
    const page = written.replace('<html lang="en">', `<html lang="${language.tag}">`).replace(
      '__NO_SCRIPT__',
      speakIn(language, () => PAGES_TEXTS.needsScript),
    );
    response.setHeader('Cache-Control', 'no-store');
    response.setHeader('Vary', 'Accept-Language, Cookie');
    response.type('html').send(page.replaceAll(NONCE_PLACEHOLDER, response.locals['nonce'] as string));
  });
  return router;
}

/** A fresh nonce (CSP 3, 2.3.1: at least 128 random bits). */
export function newNonce(): string {
  return randomBytes(18).toString('base64');
}
