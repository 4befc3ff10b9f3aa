const MOST = 50;

/** Pages that have all the words, those that begin with what was typed first. */
export function suggestedPages(paths: readonly string[], typed: string): string[] {
  const text = typed.trim().toLowerCase();
  const words = text.split(/[\s/]+/).filter(Boolean);
  const beginning: string[] = [];
  const others: string[] = [];
  for (const path of paths) {
    const lower = path.toLowerCase();
    if (lower.startsWith(text)) beginning.push(path);
    else if (words.every((word) => lower.includes(word))) others.push(path);
    if (beginning.length >= MOST) break;
  }
  return [...beginning, ...others].slice(0, MOST);
}
