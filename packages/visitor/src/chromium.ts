import { accessSync, constants, existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, type Browser } from 'playwright-core';

/** Where systems put it; the one without a window is twice as fast. */
const USUAL_PATHS = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium', '/usr/bin/chromium-browser'];

/** No browser can be started here. The message is for people. */
export class NoBrowserError extends Error {
  constructor(message: string) {
    super(message);
    this.name = 'NoBrowserError';
  }
}

export interface ChromiumOptions {
  /** Path of the program; looked for where it usually is when left out. */
  readonly executable?: string | undefined;
  /** Through which all that it asks for goes, as `http://127.0.0.1:4000`. */
  readonly proxy?: string | undefined;
}

/** A browser that runs, and whom it runs as. */
export interface StartedChromium {
  readonly browser: Browser;
  /** It keeps pages apart from the system. */
  readonly isSandboxed: boolean;
  /** It runs as another user than the service. */
  readonly isOtherUser: boolean;
  close(): Promise<void>;
}

/**
 * Frames of other sites stay in the page's process, so that one ear hears all of a page. Every visit has a profile of its own
 * that is thrown away, so there is nothing in it that a frame could take.
 */
const ARGUMENTS = [
  '--disable-site-isolation-trials',
  '--disable-features=IsolateOrigins,site-per-process,LocalNetworkAccessChecks,HttpsUpgrades,OptimizationHints,MediaRouter',
  '--disable-gpu',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--disable-domain-reliability',
  '--no-first-run',
  '--no-default-browser-check',
  '--mute-audio',
  '--hide-scrollbars',
  '--js-flags=--max-old-space-size=512',
];

/** @throws NoBrowserError where the machine has none */
export function findChromium(given: string | undefined): string {
  if (given !== undefined) {
    if (!existsSync(given))
      throw new NoBrowserError(`There is no browser at ${given} (PRAGMATICA_CHROMIUM).`);
    return given;
  }
  const found = USUAL_PATHS.find((one) => existsSync(one));
  if (found === undefined)
    throw new NoBrowserError(
      'This machine has no Chromium. Install the package chromium-headless-shell, or set PRAGMATICA_CHROMIUM to the path of one.',
    );
  return found;
}

/**
 * Starts Chromium with nothing of the service's environment. Where the service may, it runs as `nobody`, and wherever it is
 * not root it keeps its sandbox.
 *
 * @throws NoBrowserError
 */
export async function startChromium({ executable, proxy }: ChromiumOptions): Promise<StartedChromium> {
  const program = findChromium(executable);
  const folder = mkdtempSync(path.join(tmpdir(), 'pragmatica-browser-'));
  const clean = (): void => rmSync(folder, { recursive: true, force: true });
  const ways = waysToRun(program, folder);
  let problem: unknown;
  for (const { executablePath, isSandboxed, isOtherUser } of ways)
    try {
      const browser = await chromium.launch({
        executablePath,
        chromiumSandbox: isSandboxed,
        args: ARGUMENTS,
        env: {
          PATH: '/usr/local/bin:/usr/bin:/bin',
          HOME: folder,
          LANG: 'C.UTF-8',
          TZ: process.env['TZ'] ?? '',
        },
        handleSIGINT: false,
        handleSIGTERM: false,
        handleSIGHUP: false,
        ...(proxy === undefined ? {} : { proxy: { server: proxy, bypass: '<-loopback>' } }),
      });
      return {
        browser,
        isSandboxed,
        isOtherUser,
        async close() {
          await browser.close().catch(() => undefined);
          clean();
        },
      };
    } catch (error) {
      problem = error;
    }
  clean();
  const why = problem instanceof Error ? problem.message.split('\n', 1)[0] : String(problem);
  throw new NoBrowserError(`Chromium (${program}) does not start: ${why}`);
}

interface WayToRun {
  readonly executablePath: string;
  readonly isSandboxed: boolean;
  readonly isOtherUser: boolean;
}

/** The safest first; systems differ in what they allow. */
function waysToRun(program: string, folder: string): readonly WayToRun[] {
  const own = { executablePath: program, isOtherUser: false };
  if (process.getuid?.() !== 0)
    return [
      { ...own, isSandboxed: true },
      { ...own, isSandboxed: false },
    ];
  const dropped = canRun('/usr/bin/setpriv')
    ? [{ executablePath: asNobody(program, folder), isOtherUser: true }]
    : [];
  return [
    ...dropped.map((one) => ({ ...one, isSandboxed: true })),
    ...dropped.map((one) => ({ ...one, isSandboxed: false })),
    // Root has no sandbox in Chromium.
    { ...own, isSandboxed: false },
  ];
}

function canRun(program: string): boolean {
  try {
    accessSync(program, constants.X_OK);
    return true;
  } catch {
    return false;
  }
}

/** A program that gives the profile's folder to `nobody`, becomes it, and starts the browser. */
function asNobody(program: string, folder: string): string {
  const script = path.join(folder, 'as-nobody');
  const lines = [
    '#!/bin/sh',
    'for one in "$@"; do',
    '  case "$one" in --user-data-dir=*) chown -R nobody "${one#--user-data-dir=}" ;; esac',
    'done',
    `chown nobody '${folder}'`,
    `exec /usr/bin/setpriv --reuid=nobody --regid=nogroup --clear-groups --no-new-privs -- '${program}' "$@"`,
    '',
  ];
  writeFileSync(script, lines.join('\n'), { mode: 0o755 });
  return script;
}
