/** Where a surveyed page is shown in the console. */
export function pagePath(site: string, path: string): string {
  return `/sites/${site}/survey/page?path=${encodeURIComponent(path)}`;
}
