import type { Coverage } from './coverage.js';

/** A row for each section and type, two columns for each snippet, as CSV (RFC 4180). */
export function coverageCsv({ rows, snippets }: Coverage): string {
  const lines: (string | number)[][] = [
    [
      'section',
      'type',
      'pages',
      ...snippets.flatMap(({ snippet }) => [`${snippet} expected`, `${snippet} present`]),
    ],
    ...rows.map(({ section, type, pages, cells }) => [
      section,
      type,
      pages,
      ...snippets.flatMap(({ snippet }) => [cells[snippet]?.expected ?? 0, cells[snippet]?.present ?? 0]),
    ]),
  ];
  return lines.map((line) => `${line.map((cell) => csvCell(String(cell))).join(',')}\r\n`).join('');
}

/** In quotes where it must be; what a spreadsheet would take for a formula is text. */
function csvCell(text: string): string {
  const safe = /^[=+\-@]/.test(text) ? `'${text}` : text;
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}
