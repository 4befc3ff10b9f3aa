import { HELP_PAGES } from './pages';

/**
 * Where a link of a document leads in the console: to another document or a heading.
 *
 * @returns undefined for what is no document of the help, such as a file of the code
 */
export function helpAddress(page: string, href: string): string | undefined {
  const [file = '', anchor] = href.split('#');
  const target = file === '' ? page : file.replace(/\.md$/, '');
  if (!HELP_PAGES.includes(target)) return undefined;
  return `/help/${target}${anchor === undefined ? '' : `#${anchor}`}`;
}
