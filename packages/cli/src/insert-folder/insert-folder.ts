import {
  copyFileSync,
  existsSync,
  lstatSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  readlinkSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { join, relative, resolve, sep } from 'node:path';
import {
  ReleasePlanner,
  insert,
  pageAddress,
  type InsertOutcome,
  type PageLoad,
  type Snapshot,
} from '@pragmatica/core';
import { CliError } from '../errors.js';
import { isPageFile, pagePath } from './page-path.js';
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
  onFile?(done: number, path: string): void;
}

export interface PageReport {
  readonly file: string;
  readonly path: string;
  readonly outcomes: readonly InsertOutcome[];
}

export interface FolderReport {
  readonly pages: readonly PageReport[];
  readonly copied: number;
  readonly links: number;
}

/** Puts a snippet set into a folder of HTML files. Links stay links, other files are copied. @throws CliError */
export function insertFolder(options: InsertFolderOptions): FolderReport {
  const { from, to } = options;
  assertFolders(from, to);
  const planner = new ReleasePlanner(options.snapshot, options.load.environment);
  const pages: PageReport[] = [];
  let copied = 0;
  let links = 0;
  const visit = (folder: string): void => {
    mkdirSync(join(to, relative(from, folder)), { recursive: true });
    for (const entry of readdirSync(folder, { withFileTypes: true })) {
      const source = join(folder, entry.name);
      const file = relative(from, source);
      const target = join(to, file);
      if (entry.isSymbolicLink()) {
        symlinkSync(readlinkSync(source), target);
        links++;
      } else if (entry.isDirectory()) visit(source);
      else if (!entry.isFile()) continue;
      else if (isPageFile(entry.name)) {
        const path = pagePath(file, options.hasCleanPaths);
        const result = insert(
          readFileSync(source),
          planner.prepare({ ...options.load, page: pageAddress(path) }),
        );
        writeFileSync(target, result.page, { mode: lstatSync(source).mode });
        pages.push({ file, path, outcomes: result.outcomes });
        options.onFile?.(pages.length, file);
      } else {
        copyFileSync(source, target);
        copied++;
      }
    }
  };
  visit(resolve(from));
  return { pages, copied, links };
}

function assertFolders(from: string, to: string): void {
  if (!existsSync(from) || !statSync(from).isDirectory())
    throw new CliError(say(INSERT.thereNoFolder, { from }));
  const [source, target] = [resolve(from), resolve(to)];
  if (target === source || target.startsWith(source + sep)) {
    throw new CliError(INSERT.newFolderMust);
  }
  if (existsSync(to) && (!statSync(to).isDirectory() || readdirSync(to).length > 0)) {
    throw new CliError(say(INSERT.notEmptyName, { to }));
  }
}
