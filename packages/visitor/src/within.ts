/** What a promise gives, or undefined where it takes longer or fails: pages that hang answer nothing. */
export async function within<T>(ms: number, work: Promise<T>): Promise<T | undefined> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<undefined>((resolve) => {
    timer = setTimeout(() => resolve(undefined), ms);
  });
  try {
    return await Promise.race([work.catch(() => undefined), late]);
  } finally {
    clearTimeout(timer);
  }
}
