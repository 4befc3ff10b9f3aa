/** Not more often than this is told how far work is. */
const EVERY_MS = 200;

/**
 * Work that reports how far it is, as a generator of what it reports and of its result. Of reports that come faster than anybody
 * reads, only the last is told; those that are important are all told.
 */
export async function* withProgress<P, T>(
  work: (report: (progress: P, isImportant?: boolean) => void) => Promise<T>,
): AsyncGenerator<P, T> {
  const important: P[] = [];
  let last: P | undefined;
  let wake: () => void = () => undefined;
  let result: { readonly value: T } | { readonly error: unknown } | undefined;
  const done = work((progress, isImportant = false) => {
    if (!isImportant) last = progress;
    else {
      important.push(progress);
      wake();
    }
  }).then(
    (value) => (result = { value }),
    (error: unknown) => (result = { error }),
  );
  for (;;) {
    yield* important.splice(0);
    if (last !== undefined) {
      yield last;
      last = undefined;
    }
    if (result) break;
    await Promise.race([done, pause(EVERY_MS, (resolve) => (wake = resolve))]);
  }
  yield* important.splice(0);
  if ('error' in result) throw result.error;
  return result.value;
}

async function pause(ms: number, withWake: (resolve: () => void) => void): Promise<void> {
  await new Promise<void>((resolve) => {
    const timer = setTimeout(resolve, ms);
    withWake(() => {
      clearTimeout(timer);
      resolve();
    });
  });
}
