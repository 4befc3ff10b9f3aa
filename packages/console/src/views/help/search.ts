import MiniSearch from 'minisearch';
import { sectionsOf, type Section } from './sections';

export interface Hit {
  readonly id: string;
  readonly page: string;
  readonly title: string;
  /** The words around the first of those that were looked for. */
  readonly excerpt: string;
}

const MOST = 20;
const AROUND = 70;

/** A search over the sections of all pages: words that begin alike, and a slip or two forgiven. */
export function helpSearch(documents: ReadonlyMap<string, string>): (words: string) => Hit[] {
  const sections = [...documents].flatMap(([page, markdown]) => sectionsOf(page, markdown));
  const byId = new Map(sections.map((section) => [section.id, section]));
  const index = new MiniSearch<Section>({
    fields: ['title', 'text'],
    searchOptions: {
      boost: { title: 4 },
      prefix: true,
      fuzzy: (term) => (term.length > 4 ? 0.2 : false),
      combineWith: 'AND',
    },
  });
  index.addAll([...byId.values()]);
  return (words) =>
    index
      .search(words)
      .slice(0, MOST)
      .map(({ id, terms }) => {
        const { page, title, text } = byId.get(id as string)!;
        return { id: id as string, page, title, excerpt: excerptOf(text, terms) };
      });
}

function excerptOf(text: string, terms: readonly string[]): string {
  const lower = text.toLowerCase();
  const found = terms.map((term) => lower.indexOf(term)).filter((at) => at >= 0);
  const at = found.length === 0 ? 0 : Math.min(...found);
  const from = at <= AROUND ? 0 : lower.indexOf(' ', at - AROUND) + 1;
  const to = Math.min(text.length, from + 2.5 * AROUND);
  return `${from > 0 ? '… ' : ''}${text.slice(from, to).trim()}${to < text.length ? ' …' : ''}`;
}
