import { API_BASE, endpoints, type Endpoint } from '@pragmatica/contract';
import express, { type Express, type Response } from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import type { Settings } from '../settings.js';
import { ServiceError, databaseAway } from '../errors.js';
import type { Store } from '../storage/store.js';
import { createApiRouter } from './api-router.js';
import { admit } from './admit.js';
import { bodyInTime } from './body-in-time.js';
import type { Handlers } from './context.js';
import { createConsoleRouter, newNonce } from './console-files.js';
import { createErrorHandler } from './error-handler.js';
import { languageFor } from '../language/language-of.js';
import { speakIn } from '../language/speech.js';

export interface AppOptions {
  readonly store: Store;
  readonly handlers: Handlers;
  /** Told after every call that may have changed something. */
  readonly onChange: () => void;
  /** A call is refused at once while it does not. */
  readonly isDatabaseAnswering: () => boolean;
  readonly settings: Settings;
  readonly log: Logger;
  /** All metrics in the Prometheus text format. */
  readonly metrics: () => Promise<string>;
  readonly consoleFolder: string;
  readonly version: string;
}

/** Where bodies of any size come. */
const UPLOADS = new Set(
  Object.values(endpoints as Readonly<Record<string, Endpoint>>)
    .filter(({ upload }) => upload !== undefined)
    .map(({ path }) => API_BASE + path),
);

/** Composes the service's HTTP side; holds no rules of its own. */
export function createApp(options: AppOptions): Express {
  const { store, handlers, onChange, isDatabaseAnswering, settings, log, metrics, consoleFolder, version } =
    options;
  const confirmationMinutes = settings.PRAGMATICA_CONFIRMATION_MINUTES;
  const limits = settings.PRAGMATICA_LIMITS;
  const app = express();
  app.disable('x-powered-by');
  app.set('trust proxy', settings.PRAGMATICA_TRUSTED_PROXIES);
  app.use(
    pinoHttp({
      logger: log,
      autoLogging: { ignore: (request) => request.url === '/healthz' || request.url === '/metrics' },
    }),
  );
  app.use((request, _response, next) => {
    speakIn(languageFor(request), next);
  });
  app.use(bodyInTime((path) => UPLOADS.has(path)));
  app.get('/healthz', (_request, response) => {
    response.type('text').send('ok\n');
  });
  app.get('/readyz', (_request, response) => {
    const isReady = isDatabaseAnswering();
    response
      .status(isReady ? 200 : 503)
      .type('text')
      .send(isReady ? 'ready\n' : 'the database does not answer\n');
  });
  app.use([API_BASE, '/metrics'], (_request, response, next) => {
    if (isDatabaseAnswering()) next();
    else {
      response.setHeader('Retry-After', '5');
      throw databaseAway();
    }
  });
  app.get('/metrics', async (request, response) => {
    await admit(store.fork(), { needs: { installation: 'view' } }, request);
    response.type('text/plain; version=0.0.4; charset=utf-8').send(await metrics());
  });
  app.use((_request, response, next) => {
    response.locals['nonce'] = newNonce();
    next();
  });
  app.use(
    helmet({
      contentSecurityPolicy: { useDefaults: false, directives: consolePolicy() },
      strictTransportSecurity: settings.PRAGMATICA_SECURE_COOKIES,
    }),
  );
  app.use(API_BASE, createApiRouter({ store, handlers, onChange, confirmationMinutes, limits, version }));
  app.use(createConsoleRouter(consoleFolder));
  app.use((request) => {
    throw new ServiceError('nothing-at-path', { path: request.path });
  });
  app.use(createErrorHandler(log));
  return app;
}

/** Nothing but the console's own files; inline styles only with the answer's nonce. */
function consolePolicy(): Record<string, string[] | ((request: unknown, response: unknown) => string)[]> {
  const nonce = (_request: unknown, response: unknown): string =>
    `'nonce-${(response as Response).locals['nonce'] as string}'`;
  return {
    defaultSrc: ["'none'"],
    scriptSrc: ["'self'"],
    styleSrc: ["'self'", nonce] as never,
    imgSrc: ["'self'", 'data:'],
    fontSrc: ["'self'"],
    connectSrc: ["'self'"],
    baseUri: ["'none'"],
    formAction: ["'self'"],
    frameAncestors: ["'none'"],
  };
}
