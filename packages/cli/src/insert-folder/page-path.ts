import { sep } from 'node:path';

/** Whether a file is a page. */
export function isPageFile(name: string): boolean {
  return /\.html?$/i.test(name);
}

/** The path under which a web server would serve a file. @param hasCleanPaths - `/about.html` is asked for as `/about` */
export function pagePath(file: string, hasCleanPaths: boolean): string {
  const path = `/${file.split(sep).map(encodeURIComponent).join('/')}`;
  const folder = path.replace(/\/index\.html?$/i, '/');
  if (!hasCleanPaths) return folder;
  const clean = folder.replace(/\.html?$/i, '');
  return clean.length > 1 ? clean.replace(/\/$/, '') : clean;
}
