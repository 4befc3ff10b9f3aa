/** `.name` or `['name']` (RFC 9535, 2.3.1 and 2.5.1). */
const STEP = /\.([A-Za-z_][\w-]*)|\[(?:'([^'\\]*)'|"([^"\\]*)")\]/y;

/**
 * The names that a JSONPath of nothing but names leads along; undefined for one that does more than that, for which a
 * small script has no room.
 */
export function consentPath(path: string): readonly string[] | undefined {
  const text = path.trim();
  if (!text.startsWith('$')) return undefined;
  const names: string[] = [];
  STEP.lastIndex = 1;
  while (STEP.lastIndex < text.length) {
    const at = STEP.lastIndex;
    const step = STEP.exec(text);
    if (!step) return undefined;
    names.push(step[1] ?? step[2] ?? step[3]!);
    if (STEP.lastIndex === at) return undefined;
  }
  return names;
}
