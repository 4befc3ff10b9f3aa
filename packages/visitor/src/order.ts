import type { ThirdPartyRules, VisitScript } from '@pragmatica/core';

/** What a browser is asked to do, and what it may. */
export interface VisitOrder {
  /** How visitors reach the host, e.g. `https://www.example.com`. */
  readonly address: string;
  /** Origins whose pages may be opened: the site's own. */
  readonly ownOrigins: readonly string[];
  readonly script: VisitScript;
  /** What other hosts get. */
  readonly thirdParties: ThirdPartyRules;
  /** Request headers with which the host lets us in; they go to it alone. */
  readonly access?: Readonly<Record<string, string>>;
  /** Selectors of elements that somebody wants to know of. */
  readonly probes?: readonly string[];
  /** The cookie that stands for an answer to the consent banner, for pages whose banner cannot be found. */
  readonly consentCookies?: Readonly<
    Partial<Record<'accept' | 'refuse', { readonly name: string; readonly value: string }>>
  >;
  /** Makes another page of the one that came, or of a file of the site's; what it gives undefined for stays as it is. */
  readonly rewrite?: (answer: RewrittenAnswer) => Promise<string | undefined> | string | undefined;
  /** Which addresses besides pages are handed to `rewrite`, as the DevTools protocol writes patterns. */
  readonly rewriteAlso?: readonly string[];
  /** An attribute that numbers elements: where these are shown is written down, and the picture is one of the whole page. */
  readonly boxesOf?: string;
  /** Takes no picture. */
  readonly noScreenshot?: boolean;
  /** At most so long, everything taken together. @defaultValue 45,000, and what the visitor waits on purpose */
  readonly timeoutMs?: number;
}

export interface RewrittenAnswer {
  readonly url: string;
  readonly isPage: boolean;
  readonly contentType: string;
  /** Names in lower case. */
  readonly headers: Readonly<Record<string, string>>;
  readonly body: Buffer;
  /** The `Cookie` header that the request for it had. */
  readonly cookies: string;
}
