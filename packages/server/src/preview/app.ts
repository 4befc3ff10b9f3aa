import { pipeline } from 'node:stream/promises';
import { decodePage, clockTimeWords, type Snapshot } from '@pragmatica/core';
import { sendOwnPage } from '@pragmatica/runtime';
import { serialize } from 'cookie';
import express, { type Express, type NextFunction, type Request, type Response } from 'express';
import type { Logger } from 'pino';
import { bodyOf, readBounded } from '../outgoing/read-bounded.js';
import type { SecretBox } from '../outgoing/secret-box.js';
import type { SiteClient } from '../outgoing/site-client.js';
import type { SiteResponse } from '../outgoing/site-request.js';
import type { Readers } from '../reading/readers.js';
import type { Settings } from '../settings.js';
import type { Sets } from '../site/sets.js';
import { policedHosts } from '../storage/host-policies.js';
import { hostsOf } from '../storage/hosts.js';
import { releaseByNumber } from '../storage/releases.js';
import type { Host, Site } from '../storage/rows.js';
import { siteByKey } from '../storage/sites.js';
import type { Store } from '../storage/store.js';
import { PREVIEW_TEXTS as T } from '../texts/preview.js';
import { say } from '../texts/say.js';
import { addressOf } from '../visits/visiting.js';
import { OWN_FOLDER, PASS_NAME, previewOrigin } from './address.js';
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

/** Longer pages are shown as they are, and say so by having no mark. */
const MAX_PAGE = 16 << 20;
const ANSWER_MS = 20_000;
const LOCALE = 'en-GB';

interface Ground {
  readonly site: Site;
  readonly host: Host;
  readonly pass: PreviewPass;
  readonly shown: Snapshot;
  readonly published: Snapshot | null;
  readonly isPolicyOurs: boolean;
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
  app.use((_request, response, next) => {
    response.setHeader('x-robots-tag', 'noindex, nofollow');
    next();
  });
  app.get('/robots.txt', (_request, response) => {
    response.type('text').send('User-agent: *\nDisallow: /\n');
  });
  app.get(`${OWN_FOLDER}/leave`, (_request, response) => {
    response.setHeader('set-cookie', cookie('', 0));
    sendOwnPage(response, 200, T.leftTitle, T.left);
  });
  app.use((request, response, next) => {
    const url = new URL(request.url, origin);
    const given = url.searchParams.get(PASS_NAME);
    if (given === null) {
      next();
      return;
    }
    const pass = readPass(box, given, Date.now());
    if (!pass) {
      sendOwnPage(response, 410, T.overTitle, T.over);
      return;
    }
    url.searchParams.delete(PASS_NAME);
    response.setHeader('set-cookie', cookie(given, Math.ceil((pass.until - Date.now()) / 1_000)));
    response.setHeader('referrer-policy', 'no-referrer');
    // The address without the pass: it goes into no history, and to no provider.
    response.redirect(303, url.pathname + url.search);
  });
  app.use(async (request, response) => {
    const pass = readPass(box, keptPass(request.headers.cookie) ?? '', Date.now());
    if (!pass) sendOwnPage(response, 410, T.overTitle, T.over);
    else if (request.method !== 'GET' && request.method !== 'HEAD')
      sendOwnPage(response, 405, T.methodTitle, T.method);
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
    sendOwnPage(response, 502, say(T.noAnswerTitle, params), say(T.noAnswer, params));
  });
  return app;
}

async function show(
  tools: PreviewTools,
  pass: PreviewPass,
  request: Request,
  response: Response,
): Promise<void> {
  const store = tools.store.fork();
  const ground = await groundOf(tools, store, pass);
  if (!ground) {
    sendOwnPage(response, 410, T.goneTitle, say(T.gone, { host: pass.host }));
    return;
  }
  const address = addressOf(ground.host);
  const gone = new AbortController();
  response.on('close', () => gone.abort());
  const answer = await tools.client.get(address, request.url, {
    headers: headersForSite(
      request.headers,
      await tools.client.accessIfLetIn(store, ground.site, ground.host),
    ),
    signal: AbortSignal.any([gone.signal, AbortSignal.timeout(ANSWER_MS)]),
  });
  const isSecure = previewOrigin(tools.settings).startsWith('https:');
  const headers = headersForBrowser(answer, address, isSecure);
  const isPage = /^(?:text\/html|application\/xhtml\+xml)\b/i.test(answer.headers.get('content-type') ?? '');
  response.status(answer.status);
  if (!isPage || answer.status === 206 || request.method === 'HEAD') {
    response.set(headers as Record<string, string>);
    await pipeline(bodyOf(answer), response).catch((error: unknown) => {
      if (!gone.signal.aborted) throw error;
    });
    return;
  }
  await showPage(tools, ground, request, response, answer, headers as Record<string, string>);
}

async function groundOf(
  { sets }: PreviewTools,
  store: Store,
  pass: PreviewPass,
): Promise<Ground | undefined> {
  const site = await siteByKey(store, pass.site);
  const host = site && (await hostsOf(store, site)).find((one) => one.host === pass.host);
  if (!host) return undefined;
  const release = pass.release === null ? undefined : await releaseByNumber(store, site, pass.release);
  if (pass.release !== null && !release) return undefined;
  const shown = release ? await sets.release(store, release) : (await sets.draft(store, site)).snapshot;
  const served = await sets.served(store, site, host.environment);
  const isPolicyOurs = host.delivery === 'gateway' && (await policedHosts(store, site)).has(host.host);
  return { site, host, pass, shown, published: served?.snapshot ?? null, isPolicyOurs };
}

/** Whatever goes wrong with a page, it is shown as it is. */
async function showPage(
  { readers, settings, log }: PreviewTools,
  { host, site, pass, shown, published, isPolicyOurs }: Ground,
  request: Request,
  response: Response,
  answer: SiteResponse,
  headers: Record<string, string>,
): Promise<void> {
  const bytes = await readBounded(answer, MAX_PAGE, 'cut');
  const type = answer.headers.get('content-type') ?? '';
  try {
    const page = await readers.run('previewPage', {
      page: {
        target: request.url,
        html: decodePage(bytes ?? new Uint8Array(0), type).text,
        headers: Object.fromEntries(answer.headers),
        asked: request.headers,
        cookies: siteCookies(request.headers.cookie),
        at: Date.now(),
      },
      ground: {
        published,
        shown,
        release: pass.release,
        host: host.host,
        environment: host.environment,
        origin: addressOf(host),
        isPolicyOurs,
        previewOrigin: previewOrigin(settings),
        leaveAddress: `${OWN_FOLDER}/leave`,
        until: clockTimeWords({ at: pass.until, zone: site.timeZone, now: Date.now() }, LOCALE),
      },
    });
    response.set({ ...headers, ...page.headers, 'content-type': withUtf8(type) });
    response.end(page.html);
  } catch (error) {
    log.warn({ err: error, host: host.host, path: request.path }, 'a page could not be previewed');
    response.set(headers);
    response.end(bytes);
  }
}

function withUtf8(contentType: string): string {
  const [type = ''] = contentType.split(';', 1);
  return `${type.trim()}; charset=utf-8`;
}
