export type Theme = 'light' | 'dark';

const KEY = 'pragmatica-theme';

const system = matchMedia('(prefers-color-scheme: dark)');
const listeners = new Set<() => void>();

/** The theme that was chosen, or the one that the system asks for. */
export function currentTheme(): Theme {
  const chosen = localStorage.getItem(KEY);
  if (chosen === 'light' || chosen === 'dark') return chosen;
  return system.matches ? 'dark' : 'light';
}

/** Shows the theme from now on, also when the system goes over to another one, as many do in the evening. */
export function followTheme(): void {
  system.addEventListener('change', showTheme);
  showTheme();
}

export function chooseTheme(theme: Theme): void {
  localStorage.setItem(KEY, theme);
  showTheme();
}

/** @returns takes the listener away */
export function onThemeChange(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

function showTheme(): void {
  document.documentElement.dataset['theme'] = currentTheme();
  for (const listener of listeners) listener();
}
