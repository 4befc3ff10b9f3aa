import {
  copyFileSync,
  existsSync,
  lstatSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  readlinkSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { dirname, isAbsolute, join, relative, resolve, sep } from 'node:path';
import {
  insert,
  type InsertOutcome,
  type PageLoad,
  type PreparedParts,
  type Snapshot,
} from '@pragmatica/core';
import { CliError } from '../errors.js';
import {
  MANIFEST,
  isSameStamp,
  readManifest,
  writeManifest,
  type Manifest,
  type WrittenFile,
} from './manifest.js';
import type { PageJob } from './insert-pages.js';
import { packAs, packedOf } from './packed-pages.js';
import { isPageFile, pagePath } from './page-path.js';
import { FolderParts } from './page-parts.js';
import { insertOnCores } from './page-threads.js';
import { INSERT } from '../texts/insert.js';
import { say } from '../texts/say.js';

export interface InsertFolderOptions {
  readonly from: string;
  readonly to: string;
  readonly snapshot: Snapshot;
  /** The page load that the files are made for. */
  readonly load: Omit<PageLoad, 'page'>;
  /** `/about.html` is asked for as `/about`. */
  readonly hasCleanPaths: boolean;
  /** Tells what would be written, and writes nothing. */
  readonly isDry?: boolean;
  readonly onFile?: (done: number, path: string) => void;
  /** Is shown each page that would change, beside what is there, or what it comes from where nothing is there yet. */
  readonly onDifference?: (file: string, before: Uint8Array, after: Uint8Array) => void;
}

export interface PageReport {
  readonly file: string;
  readonly path: string;
  readonly outcomes: readonly InsertOutcome[];
}

export interface FolderReport {
  readonly pages: readonly PageReport[];
  /** Other files that went along. */
  readonly copied: number;
  readonly links: number;
  /** Files that are, or would be, written anew. */
  readonly written: readonly string[];
  /** Files that are, or would be, removed: what they came from is gone. */
  readonly removed: readonly string[];
}

/**
 * Puts a snippet set into a folder of HTML files. Links stay links, other files are copied, packed siblings of pages
 * (`.gz`, `.br`) are packed anew. Into a folder that was written before, only what has changed is written.
 *
 * @throws CliError
 */
export async function insertFolder(options: InsertFolderOptions): Promise<FolderReport> {
  assertFolders(options.from, options.to);
  const work = new FolderWork(options);
  work.visit(resolve(options.from));
  await work.writePages();
  return work.end();
}

class FolderWork {
  readonly #options: InsertFolderOptions;
  readonly #parts: FolderParts;
  readonly #before: Manifest;
  readonly #now = new Map<string, WrittenFile>();
  readonly #pages: PageReport[] = [];
  readonly #written: string[] = [];
  readonly #waiting: {
    readonly job: PageJob;
    readonly note: (outcomes: readonly InsertOutcome[]) => void;
  }[] = [];
  #copied = 0;
  #links = 0;

  constructor(options: InsertFolderOptions) {
    this.#options = options;
    this.#parts = new FolderParts(options.snapshot, options.load);
    this.#before = readManifest(options.to) ?? {};
  }

  visit(folder: string): void {
    const { from, to, isDry } = this.#options;
    if (!isDry) mkdirSync(join(to, relative(from, folder)), { recursive: true });
    for (const entry of readdirSync(folder, { withFileTypes: true })) {
      const source = join(folder, entry.name);
      const file = relative(from, source);
      if (entry.isSymbolicLink()) this.#link(source, file);
      else if (entry.isDirectory()) this.visit(source);
      else if (!entry.isFile() || file === MANIFEST) continue;
      else if (isPageFile(entry.name)) this.#page(source, file);
      else this.#other(source, file);
    }
  }

  end(): FolderReport {
    const { to, isDry } = this.#options;
    const removed = Object.keys(this.#before).filter((file) => !this.#now.has(file));
    if (!isDry) {
      for (const file of removed) removeFile(to, file);
      writeManifest(to, this.#now);
    }
    return {
      pages: this.#pages,
      copied: this.#copied,
      links: this.#links,
      written: this.#written,
      removed,
    };
  }

  #page(source: string, file: string): void {
    const path = pagePath(file, this.#options.hasCleanPaths);
    const prepared = this.#parts.of(path);
    const parts = this.#parts.nameOf(prepared);
    const stamp = stampOf(source);
    const before = this.#before[file];
    const index = this.#pages.length;
    const note = (outcomes: readonly InsertOutcome[]): void => {
      this.#now.set(file, { ...stamp, kind: 'page', parts, outcomes });
      this.#pages[index] = { file, path, outcomes };
    };
    const kept = this.#isKept(file, stamp, parts) ? before?.outcomes : undefined;
    note(kept ?? []);
    if (kept) return;
    this.#written.push(file);
    if (this.#options.isDry) note(this.#show(file, source, prepared));
    else this.#waiting.push({ job: { file, source, path }, note });
  }

  /** What would become of a page. */
  #show(file: string, source: string, prepared: PreparedParts): readonly InsertOutcome[] {
    const { to, onDifference } = this.#options;
    const { page, outcomes } = insert(readFileSync(source), prepared);
    const target = join(to, file);
    onDifference?.(file, readFileSync(existsSync(target) ? target : source), page);
    return outcomes;
  }

  /** Writes the pages that have changed. */
  async writePages(): Promise<void> {
    const jobs = this.#waiting.map(({ job }) => job);
    const { to, snapshot, load, onFile } = this.#options;
    const outcomes = await insertOnCores(jobs, { to, snapshot, load }, onFile);
    this.#waiting.forEach(({ note }, index) => note(outcomes[index]!));
  }

  #other(source: string, file: string): void {
    const stamp = stampOf(source);
    const page = packedOf(file);
    const pageSource = page === undefined ? undefined : join(this.#options.from, page);
    if (pageSource === undefined || !existsSync(pageSource)) {
      if (!this.#isKept(file, stamp, undefined)) this.#write(file, undefined, source);
      this.#now.set(file, { ...stamp, kind: 'copy' });
      this.#copied++;
      return;
    }
    // It holds the page, so it is as old as the page, and has the same parts in it.
    const prepared = this.#parts.of(pagePath(page!, this.#options.hasCleanPaths));
    const parts = this.#parts.nameOf(prepared);
    const pageStamp = stampOf(pageSource);
    if (!this.#isKept(file, pageStamp, parts))
      this.#write(file, () => packAs(file, insert(readFileSync(pageSource), prepared).page), source);
    this.#now.set(file, { ...pageStamp, kind: 'packed', parts });
  }

  #link(source: string, file: string): void {
    const { to, isDry } = this.#options;
    const target = join(to, file);
    this.#links++;
    if (isDry || isLinkTo(target, readlinkSync(source))) return;
    rmSync(target, { force: true });
    symlinkSync(readlinkSync(source), target);
  }

  /** Whether a file is there as it would be written. */
  #isKept(file: string, stamp: { size: number; mtimeMs: number }, parts: string | undefined): boolean {
    const before = this.#before[file];
    return (
      before !== undefined &&
      isSameStamp(before, stamp) &&
      before.parts === parts &&
      existsSync(join(this.#options.to, file))
    );
  }

  /** @param make - undefined for a copy as it is */
  #write(file: string, make: (() => Uint8Array) | undefined, source: string): void {
    this.#written.push(file);
    const { to, isDry } = this.#options;
    if (isDry) return;
    const target = join(to, file);
    if (make) writeFileSync(target, make(), { mode: lstatSync(source).mode });
    else copyFileSync(source, target);
  }
}

function stampOf(file: string): { size: number; mtimeMs: number } {
  const { size, mtimeMs } = statSync(file);
  return { size, mtimeMs };
}

function isLinkTo(file: string, target: string): boolean {
  try {
    return readlinkSync(file) === target;
  } catch {
    return false;
  }
}

/** Folders that are empty then go, too. */
function removeFile(folder: string, file: string): void {
  // A manifest that somebody has changed must not lead anywhere else.
  if (isAbsolute(file) || file.split(sep).includes('..')) return;
  rmSync(join(folder, file), { force: true });
  for (let at = dirname(file); at !== '.' && at !== '/'; at = dirname(at)) {
    const path = join(folder, at);
    if (!existsSync(path) || readdirSync(path).length > 0) return;
    rmSync(path, { recursive: true });
  }
}

function assertFolders(from: string, to: string): void {
  if (!existsSync(from) || !statSync(from).isDirectory())
    throw new CliError(say(INSERT.thereNoFolder, { from }));
  const [source, target] = [resolve(from), resolve(to)];
  if (target === source || target.startsWith(source + sep)) {
    throw new CliError(INSERT.newFolderMust);
  }
  if (!existsSync(to)) return;
  // What was written here before may be written again.
  const isOurs =
    statSync(to).isDirectory() && (readdirSync(to).length === 0 || readManifest(to) !== undefined);
  if (!isOurs) throw new CliError(say(INSERT.notEmptyName, { to }));
}
