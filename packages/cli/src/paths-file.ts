import { parseHar } from './har.js';
import { readTextFile } from './text-file.js';

/** Paths of the pages that a file lists: an address or a path a line, or a recording of a browser. @throws CliError */
export function readPathsFile(file: string): string[] {
  const text = readTextFile(file);
  const listed = text.trimStart().startsWith('{') ? harAddresses(text, file) : text.split(/\r?\n/);
  const paths = listed.flatMap((line) => toPath(line.trim()) ?? []);
  return [...new Set(paths)];
}

function harAddresses(text: string, file: string): string[] {
  return parseHar(text, file).flatMap(({ request, response }) =>
    request.method === 'GET' && /html/i.test(response.content.mimeType) ? [request.url] : [],
  );
}

/** Which of them are the site's own is for the survey to say. */
function toPath(line: string): string | undefined {
  if (line === '' || line.startsWith('#')) return undefined;
  if (line.startsWith('/')) return line;
  if (!URL.canParse(line)) return undefined;
  const { pathname, search } = new URL(line);
  return pathname + search;
}
