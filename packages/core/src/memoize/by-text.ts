/** A function of a text whose results are kept, the newest so many of them. What throws is asked again. */
export function memoizeByText<T>(most: number, work: (text: string) => T): (text: string) => T {
  let newer = new Map<string, T>();
  let older = new Map<string, T>();
  return (text) => {
    let result = newer.get(text);
    if (result !== undefined) return result;
    result = older.get(text) ?? work(text);
    if (newer.size >= most) {
      older = newer;
      newer = new Map();
    }
    newer.set(text, result);
    return result;
  };
}
