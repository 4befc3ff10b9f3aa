import { pipeline } from 'node:stream/promises';
import { decodePage, clockTimeWords, type PreviewGround } from '@pragmatica/core';
import { serialize } from 'cookie';
import express, { type Express, type NextFunction, type Request, type Response } from 'express';
import type { Logger } from 'pino';
import { languageFor } from '../language/language-of.js';
import { speakIn } from '../language/speech.js';
import { bodyOf, readBounded } from '../outgoing/read-bounded.js';
import type { SecretBox } from '../outgoing/secret-box.js';
import { siteUrl, type SiteClient } from '../outgoing/site-client.js';
import type { SiteResponse } from '../outgoing/site-request.js';
import type { Readers } from '../reading/readers.js';
import type { Settings } from '../settings.js';
import type { Sets } from '../site/sets.js';
import { policedHosts } from '../storage/host-policies.js';
import { hostsOf } from '../storage/hosts.js';
import { releaseByNumber } from '../storage/releases.js';
import type { Host, Release, Site } from '../storage/rows.js';
import { siteByKey } from '../storage/sites.js';
import type { Store } from '../storage/store.js';
import { PREVIEW_TEXTS as T } from '../texts/preview.js';
import { say } from '../texts/say.js';
import { addressOf } from '../visits/visiting.js';
import { answer } from './answer.js';
import { OWN_FOLDER, PASS_NAME, isAskedHere, ownPath, previewOrigin } from './address.js';
import { headersForBrowser, headersForSite, keptPass, siteCookies } from './pass-on.js';
import { readPass, type PreviewPass } from './pass.js';

export interface PreviewTools {
  readonly store: Store;
  readonly sets: Sets;
  readonly readers: Readers;
  readonly client: SiteClient;
  readonly box: SecretBox;
  readonly settings: Settings;
  readonly log: Logger;
}

/** Longer pages end there. */
const MAX_PAGE = 16 << 20;
const ANSWER_MS = 20_000;
const LOCALE = 'en-GB';
const IS_PAGE = /^(?:text\/html|application\/xhtml\+xml)\b/i;

interface Place {
  readonly site: Site;
  readonly host: Host;
  /** The release that is shown; undefined for the draft. */
  readonly release: Release | undefined;
}

/**
 * Previews: the pages of a site with a draft in them, for whoever has the address. The site is asked for each page as it is asked by
 * its visitors; nothing of the preview is kept, listed or passed on to it.
 */
export function createPreviewApp(tools: PreviewTools): Express {
  const { box, settings, log } = tools;
  const origin = previewOrigin(settings);
  const isSecure = origin.startsWith('https:');
  const cookie = (value: string, maxAge: number): string =>
    serialize(PASS_NAME, value, { httpOnly: true, sameSite: 'lax', secure: isSecure, path: '/', maxAge });

  const app = express();
  app.disable('x-powered-by');
  app.disable('etag');
  app.use((request, _response, next) => {
    speakIn(languageFor(request), next);
  });
  app.use((request, response, next) => {
    response.setHeader('x-robots-tag', 'noindex, nofollow');
    if (isAskedHere(request.headers.host, settings)) next();
    else answer(response, 421, T.elsewhereTitle, say(T.elsewhere, { address: origin }));
  });
  app.get('/robots.txt', (_request, response) => {
    response.type('text').send('User-agent: *\nDisallow: /\n');
  });
  app.get(`${OWN_FOLDER}/leave`, (_request, response) => {
    response.setHeader('set-cookie', cookie('', 0));
    answer(response, 200, T.leftTitle, T.left);
  });
  app.use((request, response, next) => {
    const url = siteUrl(origin, request.url);
    const given = url.searchParams.get(PASS_NAME);
    if (given === null) {
      next();
      return;
    }
    const pass = readPass(box, given, Date.now());
    if (!pass) {
      answer(response, 410, T.overTitle, T.over);
      return;
    }
    url.searchParams.delete(PASS_NAME);
    response.setHeader('set-cookie', cookie(given, Math.ceil((pass.until - Date.now()) / 1_000)));
    response.setHeader('referrer-policy', 'no-referrer');
    // The address without the pass: it goes into no history, and to no provider.
    response.redirect(303, ownPath(url));
  });
  app.use(async (request, response) => {
    const pass = readPass(box, keptPass(request.headers.cookie) ?? '', Date.now());
    if (!pass) answer(response, 410, T.overTitle, T.over);
    else if (request.method !== 'GET' && request.method !== 'HEAD')
      answer(response, 405, T.methodTitle, T.method);
    // A worker that a site registers here would go on answering when the preview is over.
    else if (request.headers['service-worker'] !== undefined) response.status(404).end();
    else await show(tools, pass, request, response);
  });
  app.use((error: unknown, request: Request, response: Response, next: NextFunction) => {
    if (response.headersSent) {
      next(error);
      return;
    }
    const pass = readPass(box, keptPass(request.headers.cookie) ?? '', Date.now());
    log.warn({ err: error, host: pass?.host }, 'a preview could not ask the site');
    const params = { host: pass?.host ?? '', address: pass?.host ?? '' };
    answer(response, 502, say(T.noAnswerTitle, params), say(T.noAnswer, params));
  });
  return app;
}

async function show(
  tools: PreviewTools,
  pass: PreviewPass,
  request: Request,
  response: Response,
): Promise<void> {
  const { client, settings } = tools;
  const store = tools.store.fork();
  const place = await placeOf(store, pass);
  if (!place) {
    answer(response, 410, T.goneTitle, say(T.gone, { host: pass.host }));
    return;
  }
  const address = addressOf(place.host);
  const gone = new AbortController();
  response.on('close', () => gone.abort());
  const late = setTimeout(() => gone.abort(new Error('The site took too long.')), ANSWER_MS);
  try {
    const access = await client.accessIfLetIn(store, place.site, place.host);
    const answer = await client.get(address, request.url, {
      headers: headersForSite(request.headers, access),
      signal: gone.signal,
    });
    const isSecure = previewOrigin(settings).startsWith('https:');
    const headers = headersForBrowser(answer, address, isSecure) as Record<string, string>;
    response.status(answer.status);
    const isWhole = answer.status !== 206 && request.method !== 'HEAD';
    if (isWhole && IS_PAGE.test(answer.headers.get('content-type') ?? '')) {
      await showPage(tools, store, place, pass, { request, response, answer, headers });
      return;
    }
    // A film takes as long as it takes.
    clearTimeout(late);
    response.set(headers);
    await pipeline(bodyOf(answer), response).catch((error: unknown) => {
      if (!gone.signal.aborted) throw error;
    });
  } finally {
    clearTimeout(late);
  }
}

async function placeOf(store: Store, pass: PreviewPass): Promise<Place | undefined> {
  const site = await siteByKey(store, pass.site);
  const host = site && (await hostsOf(store, site)).find((one) => one.host === pass.host);
  if (!host) return undefined;
  const release = pass.release === null ? undefined : await releaseByNumber(store, site, pass.release);
  return pass.release !== null && !release ? undefined : { site, host, release: release ?? undefined };
}

async function groundOf(
  { sets, settings }: PreviewTools,
  store: Store,
  { site, host, release }: Place,
  pass: PreviewPass,
): Promise<PreviewGround> {
  const served = await sets.served(store, site, host.environment);
  return {
    published: served?.snapshot ?? null,
    shown: release ? await sets.release(store, release) : (await sets.draft(store, site)).snapshot,
    release: pass.release,
    host: host.host,
    environment: host.environment,
    origin: addressOf(host),
    isPolicyOurs: host.delivery === 'gateway' && (await policedHosts(store, site)).has(host.host),
    previewOrigin: previewOrigin(settings),
    leaveAddress: `${OWN_FOLDER}/leave`,
    until: clockTimeWords({ at: pass.until, zone: site.timeZone, now: Date.now() }, LOCALE),
  };
}

interface Exchange {
  readonly request: Request;
  readonly response: Response;
  readonly answer: SiteResponse;
  readonly headers: Record<string, string>;
}

/** Whatever goes wrong with a page, it is shown as it is. */
async function showPage(
  tools: PreviewTools,
  store: Store,
  place: Place,
  pass: PreviewPass,
  { request, response, answer, headers }: Exchange,
): Promise<void> {
  const bytes = await readBounded(answer, MAX_PAGE, 'cut');
  const type = answer.headers.get('content-type') ?? '';
  try {
    const page = await tools.readers.run('previewPage', {
      page: {
        target: request.url,
        html: decodePage(bytes ?? new Uint8Array(0), type).text,
        headers: Object.fromEntries(answer.headers),
        asked: request.headers,
        cookies: siteCookies(request.headers.cookie),
        at: Date.now(),
      },
      ground: await groundOf(tools, store, place, pass),
    });
    response.set({ ...headers, ...page.headers, 'content-type': withUtf8(type) });
    response.end(page.html);
  } catch (error) {
    tools.log.warn({ err: error, host: pass.host, path: request.path }, 'a page could not be previewed');
    response.set(headers);
    response.end(bytes);
  }
}

function withUtf8(contentType: string): string {
  const [type = ''] = contentType.split(';', 1);
  return `${type.trim()}; charset=utf-8`;
}
