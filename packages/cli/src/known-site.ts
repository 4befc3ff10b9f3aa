import { recipe as recipeSchema } from '@pragmatica/contract';
import {
  FactsCache,
  RecipeBook,
  pageSkeleton,
  seenInPages,
  type GivenPage,
  type Knowledge,
  type KnownHost,
  type Recipe,
} from '@pragmatica/core';
import { statSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { z } from 'zod';
import { CliError, EXIT } from './errors.js';
import { folderPages } from './given-pages.js';
import { readPathsFile } from './paths-file.js';
import { readTextFile } from './text-file.js';
import { FINDINGS } from './texts/findings.js';
import { say } from './texts/say.js';

/** What is known of a site whose set is in a file, as options or the file itself give it. */
export interface Given {
  readonly host?: readonly string[];
  readonly pages?: string;
  readonly headers?: string;
  readonly recipes?: readonly string[];
}

const known = z.strictObject({
  hosts: z.array(z.string()).optional(),
  pages: z.string().optional(),
  headers: z.record(z.string(), z.string()).optional(),
  at: z.string().optional(),
  recipes: z.array(z.string()).optional(),
});

/** What a set's file says of its site under `known`; paths count from the file. @throws CliError */
export function knownInFile(file: string): Given & { readonly at?: string; readonly own?: Headers } {
  const value: unknown = JSON.parse(readTextFile(file));
  const found = known.safeParse((value as { known?: unknown } | null)?.known ?? {});
  if (!found.success) {
    const [issue] = found.error.issues;
    throw new CliError(`"${file}", /known/${issue!.path.join('/')}: ${issue!.message}`);
  }
  const { hosts, pages, headers, at, recipes } = found.data;
  const beside = (path: string): string => resolve(dirname(file), path);
  return {
    ...(hosts ? { host: hosts } : {}),
    ...(pages === undefined ? {} : { pages: beside(pages) }),
    ...(headers ? { own: lowered(headers) } : {}),
    ...(at === undefined ? {} : { at }),
    ...(recipes ? { recipes: recipes.map(beside) } : {}),
  };
}

type Headers = Readonly<Record<string, string>>;

const HTML = { 'content-type': 'text/html; charset=utf-8' };

/** @param own - headers that pages come with, where the set's file names them. @throws CliError */
export function knowledgeOf(
  { host = [], pages, headers, recipes = [] }: Given,
  now: number,
  own: Headers = {},
): Knowledge {
  const hosts = host.map(readHost);
  const address = `https://${hosts.find(({ environment }) => environment === 'live')?.host ?? 'www.site.example'}`;
  const memory = new FactsCache();
  const told = readHeaders(headers);
  if (headers !== undefined && pages === undefined) throw new CliError(FINDINGS.headersOfPages, EXIT.usage);
  const given = pages === undefined ? [] : readPages(pages, { ...HTML, ...own, ...told });
  const isHtml = given.length > 0 && given.every(({ bytes }) => bytes.length > 0);
  return {
    now,
    memory,
    ...(hosts.length > 0 ? { hosts } : {}),
    ...(recipes.length > 0 ? { book: new RecipeBook(recipes.map(readRecipe)) } : {}),
    ...(given.length > 0 ? { paths: given.map(({ path }) => path) } : {}),
    ...(isHtml
      ? {
          ...seenInPages(given, address, memory),
          skeletons: given.map(({ path, bytes }) => pageSkeleton(path, new TextDecoder().decode(bytes))),
          files: { base: address, files: [] },
        }
      : {}),
  };
}

/** `www.skerrywick.example`, or `staging:trial.skerrywick.example`. @throws CliError */
function readHost(text: string): KnownHost {
  const [, environment = 'live', host = ''] =
    /^(?:(live|staging):)?([a-z0-9.-]+(?::\d+)?)$/i.exec(text) ?? [];
  if (host === '') throw new CliError(say(FINDINGS.noHostWrite, { host: text }));
  return { host: host.toLowerCase(), environment: environment as KnownHost['environment'] };
}

/** A folder of HTML files, or a file with a path a line: then only which pages there are is known. */
function readPages(from: string, headers: Headers): GivenPage[] {
  if (statSync(from, { throwIfNoEntry: false })?.isFile())
    return readPathsFile(from).map((path) => ({ path, bytes: new Uint8Array(), headers }));
  return [...folderPages(from, true)].map(({ path, body }) => ({
    path,
    bytes: Buffer.from(body, 'base64'),
    headers,
  }));
}

/** `Name: value`, a header a line. @throws CliError */
function readHeaders(file: string | undefined): Headers {
  if (file === undefined) return {};
  const lines = readTextFile(file).split(/\r?\n/);
  return lowered(
    Object.fromEntries(
      lines.flatMap((line, at): [string, string][] => {
        if (line.trim() === '') return [];
        const [, name, value] = /^([\w-]+):(.*)$/.exec(line) ?? [];
        if (name === undefined)
          throw new CliError(say(FINDINGS.noHeader, { file, line: at + 1 }), EXIT.usage);
        return [[name, value!.trim()]];
      }),
    ),
  );
}

function lowered(headers: Headers): Headers {
  return Object.fromEntries(Object.entries(headers).map(([name, value]) => [name.toLowerCase(), value]));
}

/** A recipe's file. @throws CliError */
export function readRecipe(file: string): Recipe {
  let value: unknown;
  try {
    value = JSON.parse(readTextFile(file));
  } catch (error) {
    if (error instanceof CliError) throw error;
    throw new CliError(say(FINDINGS.notRecipe, { file, message: (error as Error).message }));
  }
  const parsed = recipeSchema.safeParse(value);
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  throw new CliError(
    say(FINDINGS.notRecipe, { file, message: `/${issue!.path.join('/')}: ${issue!.message}` }),
  );
}
