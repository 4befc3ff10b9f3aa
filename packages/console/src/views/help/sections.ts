import GithubSlugger from 'github-slugger';

/** A piece of a page under one heading. */
export interface Section {
  /** `page#anchor`; the page alone for what stands before its first heading. */
  readonly id: string;
  readonly page: string;
  readonly title: string;
  /** 1 is the page's own. */
  readonly level: number;
  /** What stands below it, without the marks of Markdown. */
  readonly text: string;
}

const HEADING = /^(#{1,4}) (.+)$/;
const FENCE = /^(?:```|~~~)/;

/** A page in Markdown by its headings. Anchors are those that code hosts give (github-slugger). */
export function sectionsOf(page: string, markdown: string): Section[] {
  const slugger = new GithubSlugger();
  const sections: { id: string; title: string; level: number; lines: string[] }[] = [];
  let isCode = false;
  for (const line of markdown.split('\n')) {
    if (FENCE.test(line)) isCode = !isCode;
    const heading = isCode ? null : HEADING.exec(line);
    if (!heading) {
      sections.at(-1)?.lines.push(line);
      continue;
    }
    const title = plain(heading[2]!);
    const level = heading[1]!.length;
    const anchor = slugger.slug(title);
    sections.push({ id: level === 1 ? page : `${page}#${anchor}`, title, level, lines: [] });
  }
  return sections.map(({ lines, ...section }) => ({ ...section, page, text: plain(lines.join('\n')) }));
}

/** The first heading of a page. */
export function titleOf(markdown: string): string {
  return plain(/^# (.+)$/m.exec(markdown)?.[1] ?? '');
}

/** Markdown without its marks; links keep their words. */
function plain(markdown: string): string {
  return markdown
    .replace(/!?\[([^[\]\n]*)\]\([^()\n]*\)/g, '$1')
    .replace(/[`*|\\]|^#+ |^-{3}.*$|^```.*$/gm, '')
    .replace(/\s+/g, ' ')
    .trim();
}
