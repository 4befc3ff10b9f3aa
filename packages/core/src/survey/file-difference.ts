import { hostOf } from '../facts/index.js';
import { SURVEY_TEXTS } from '../texts/survey.js';
import { say } from '../texts/say.js';
import { kilobytes, type KnownFile } from './known-file.js';

/** A file as one survey got it. */
export interface FileVersion extends KnownFile {
  /** Of its bytes; null where it could not be had. */
  readonly digest: string | null;
  /** When its server says that it was changed, as an HTTP date (RFC 9110, 8.8.2). */
  readonly lastModified: string | null;
}

/**
 * What differs between the files of two surveys, in words: a line for each file that has changed, and for each that can be
 * had no more. Which files are loaded is told by what loads them.
 *
 * @param dayOf - a moment as people write its day
 */
export function fileDifference(
  before: readonly FileVersion[],
  after: readonly FileVersion[],
  dayOf: (at: Date) => string,
): string[] {
  const old = new Map(before.map((file) => [file.address, file]));
  return after.flatMap((file) => {
    const was = old.get(file.address);
    if (!was || was.digest === file.digest || was.digest === null) return [];
    if (file.digest === null) return [goneLine(file)];
    return [[changedLine(was, file, dayOf), ...whatChanged(was, file)].join(' ')];
  });
}

function goneLine({ address, status }: FileVersion): string {
  const file = shortName(address);
  return status === null
    ? say(SURVEY_TEXTS.fileNoAnswer, { file })
    : say(SURVEY_TEXTS.fileGone, { file, status });
}

function changedLine(was: FileVersion, is: FileVersion, dayOf: (at: Date) => string): string {
  const file = shortName(is.address);
  const at = is.lastModified === null ? NaN : Date.parse(is.lastModified);
  const isTold = !Number.isNaN(at) && is.lastModified !== was.lastModified;
  return isTold
    ? say(SURVEY_TEXTS.fileChangedOn, { file, day: dayOf(new Date(at)) })
    : say(SURVEY_TEXTS.fileChanged, { file });
}

/** A size that changes by less says nothing. */
const TELLING = 0.1;

function whatChanged(was: FileVersion, is: FileVersion): string[] {
  const said: string[] = [];
  const tell = (
    more: keyof typeof SURVEY_TEXTS & `file${string}`,
    old: readonly string[],
    now: readonly string[],
  ): void => {
    const names = now.filter((name) => !old.includes(name));
    if (names.length > 0)
      said.push(
        say(SURVEY_TEXTS[more] as typeof SURVEY_TEXTS.fileMoreCookies, { count: names.length, names }),
      );
  };
  tell('fileMoreCookies', was.cookies, is.cookies);
  tell('fileFewerCookies', is.cookies, was.cookies);
  tell('fileMoreStores', was.stores, is.stores);
  tell('fileMoreHosts', was.hosts, is.hosts);
  tell('fileFewerNames', is.defines, was.defines);
  if (Math.abs(is.bytes - was.bytes) > was.bytes * TELLING && kilobytes(is.bytes) !== kilobytes(was.bytes))
    said.push(say(SURVEY_TEXTS.fileSize, { from: kilobytes(was.bytes), to: kilobytes(is.bytes) }));
  return said;
}

/** Host and path: enough to know it by. */
function shortName(address: string): string {
  const { pathname } = new URL(address);
  return `${hostOf(address) ?? ''}${pathname}`;
}
