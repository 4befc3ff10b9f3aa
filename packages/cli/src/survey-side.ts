/** Both sides, where nothing else is asked for. */
export function sideOf(options: {
  readonly public?: boolean;
  readonly origin?: boolean;
}): 'public' | 'origin' | 'both' {
  if (options.origin) return 'origin';
  return options.public ? 'public' : 'both';
}
