type Late<Texts> = { readonly [Name in keyof Texts]: Texts[Name] extends () => infer Text ? Text : never };

/**
 * Texts by name that are said when they are asked for, in the language of that moment: for tables that are made when
 * their module is loaded.
 */
export function lazyTexts<const Texts extends Readonly<Record<string, () => string>>>(
  texts: Texts,
): Late<Texts> {
  const late = {};
  for (const [name, get] of Object.entries(texts))
    Object.defineProperty(late, name, { enumerable: true, get });
  return late as Late<Texts>;
}
