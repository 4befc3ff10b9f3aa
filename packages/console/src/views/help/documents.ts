import { queryOptions } from '@tanstack/react-query';
import { HELP_PAGES } from './pages';

/** The files of `docs`, each loaded when it is asked for. */
const DOCUMENTS = import.meta.glob<string>('../../../../../docs/*.md', { query: '?raw', import: 'default' });
const PICTURES = import.meta.glob<string>(
  ['../../../../../docs/*.svg', '../../../../../docs/screenshots/*.png'],
  { query: '?url', import: 'default', eager: true },
);
const FOLDER = '../../../../../docs/';

/** Every page under Help, in Markdown, by name. They are part of the console, and change only with it. */
export const documentsQuery = queryOptions({
  queryKey: ['help'],
  queryFn: async () =>
    new Map(
      await Promise.all(
        HELP_PAGES.map(async (page): Promise<[string, string]> => [
          page,
          withoutComments(await DOCUMENTS[`${FOLDER}${page}.md`]!()),
        ]),
      ),
    ),
  staleTime: Infinity,
});

/** Remarks for whoever writes a page are not for its readers. */
function withoutComments(markdown: string): string {
  return markdown.replace(/^<!--[^\n]*-->\n+/, '');
}

/** Where a picture of the documents is; undefined for what is none of them. */
export function pictureAddress(source: string): string | undefined {
  return PICTURES[`${FOLDER}${source}`];
}
