import { parseDictionary, Token, type BareItem } from 'structured-headers';

/** A header of more characters than this no server sends; what is longer is read as none. */
const MAX_HEADER = 65_536;

/** Where a page's features may be used: everywhere, the page's own origin, or origins that are listed. */
interface Allowlist {
  readonly isAll: boolean;
  readonly isSelf: boolean;
  readonly origins: readonly string[];
}

/** A page's header `Permissions-Policy` (Permissions Policy, 5.2), a structured field (RFC 9651). */
export class PermissionsPolicy {
  readonly #lists: ReadonlyMap<string, Allowlist>;

  /** A header that cannot be read forbids nothing: browsers leave it out as a whole. */
  constructor(header: string) {
    this.#lists = new Map(
      [...dictionary(header)].map(([feature, [value]]) => [
        feature,
        allowlist(Array.isArray(value) ? value.map(([item]) => item) : [value]),
      ]),
    );
  }

  /**
   * Whether the page's own code may have a feature as far as the header goes, or a frame in it that is to have it. What the page
   * may not, its frames may not either (9.7: "Define an inherited policy for feature in container at origin").
   *
   * @param origin - of whoever asks
   * @param own - the page's origin
   */
  allows(feature: string, origin: string, own: string): boolean {
    const list = this.#lists.get(feature);
    return !list || [own, origin].every((one) => holds(list, one, own));
  }

  /** The feature's entry as it would be written to let one in. */
  entry(feature: string, origin: string, own: string): string {
    const list = this.#lists.get(feature) ?? NOBODY;
    if (list.isAll) return `${feature}=*`;
    const added = origin === own || holds(list, origin, own) ? [] : [origin];
    const self = list.isSelf || !holds(list, own, own) ? ['self'] : [];
    const listed = [...list.origins, ...added].map((one) => `"${one}"`);
    return `${feature}=(${[...self, ...listed].join(' ')})`;
  }
}

function holds({ isAll, isSelf, origins }: Allowlist, origin: string, own: string): boolean {
  return isAll || (isSelf && origin === own) || origins.some((one) => matches(one, origin));
}

const NOBODY: Allowlist = { isAll: false, isSelf: false, origins: [] };

function dictionary(header: string): ReturnType<typeof parseDictionary> {
  if (header.length > MAX_HEADER) return new Map();
  try {
    return parseDictionary(header);
  } catch {
    return new Map();
  }
}

/** What is neither a known word nor an origin is left out (5.2, step 3). */
function allowlist(items: readonly BareItem[]): Allowlist {
  const words = items.filter((item) => item instanceof Token).map(String);
  return {
    isAll: words.includes('*'),
    isSelf: words.includes('self'),
    origins: items.filter((item) => typeof item === 'string'),
  };
}

/** `https://*.tide.example` stands for every host below it. */
function matches(listed: string, origin: string): boolean {
  const wildcard = /^([a-z][a-z0-9+.-]*:\/\/)\*(\.[^/?#]+)\/?$/i.exec(listed);
  if (wildcard) {
    const [, scheme, rest] = wildcard;
    return origin.startsWith(scheme!.toLowerCase()) && origin.endsWith(rest!.toLowerCase());
  }
  return URL.canParse(listed) && new URL(listed).origin === origin;
}
