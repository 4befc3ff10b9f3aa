import { filledForm, type PasswordForm } from '@pragmatica/core';
import { CookieJar } from 'tough-cookie';
import { readBounded } from './read-bounded.js';
import { redirectTarget } from './redirect.js';
import type { SiteRequest, SiteResponse } from './site-request.js';

/** Looks for the form of a page that asks for a password; null where there is none. */
export type FormReader = (html: string, url: string) => Promise<PasswordForm | null>;

/** What fills in a form, and the page that has it. */
export interface FormSecret {
  /** Empty where only a password is asked for. */
  readonly name: string;
  readonly value: string;
  readonly page: string;
}

/** A host does not let us in: it has no such form, or the password is wrong. */
export class AccessRefusedError extends Error {
  override name = 'AccessRefusedError';

  constructor(readonly why: 'no-form' | 'wrong-password') {
    super(why);
  }
}

const MAX_BYTES = 2 * 1024 * 1024;
const MAX_REDIRECTS = 5;
const TIMEOUT_MS = 20_000;

interface Page {
  readonly url: string;
  readonly form: PasswordForm | null;
}

/**
 * Signs in as a person does: asks for the page with the form, fills in what is asked for, and keeps the cookies that come
 * (RFC 6265). Only the host itself is asked, wherever the form or a redirect leads.
 *
 * @param ask - asks the host
 * @param base - address of the host
 * @returns the cookies, as a request header has them
 * @throws AccessRefusedError, and what the network throws
 */
export async function signInByForm(
  ask: (path: string, request: SiteRequest) => Promise<SiteResponse>,
  base: string,
  secret: FormSecret,
  read: FormReader,
): Promise<string> {
  const jar = new CookieJar();
  const signal = AbortSignal.timeout(TIMEOUT_MS);
  const visit = async (path: string, body?: string): Promise<Page> => {
    let next: { path: string; body?: string | undefined } = { path, body };
    for (let i = 0; i <= MAX_REDIRECTS; i++) {
      const url = new URL(base + next.path);
      const cookie = await jar.getCookieString(url.href);
      const headers = { accept: 'text/html', ...(cookie === '' ? {} : { cookie }) };
      const response = await ask(next.path, {
        headers,
        signal,
        ...(next.body === undefined ? {} : { form: next.body }),
      });
      for (const one of response.headers.getSetCookie())
        await jar.setCookie(one, url.href, { ignoreError: true });
      const location = redirectTarget(response, url);
      if (!location) return { url: url.href, form: await formOf(response, url.href, read) };
      await response.body?.cancel();
      // A browser goes on with GET (Fetch Standard, "HTTP-redirect fetch"), and here never to another host.
      next = { path: location.pathname + location.search };
    }
    throw new AccessRefusedError('no-form');
  };
  const { form } = await visit(secret.page);
  if (!form || new URL(form.action).origin !== new URL(base).origin) throw new AccessRefusedError('no-form');
  const filled = filledForm(form, secret.name, secret.value);
  const { pathname, search } = new URL(form.action);
  const after = await (form.method === 'post'
    ? visit(pathname + search, filled)
    : visit(`${pathname}?${filled}`));
  if (after.form) throw new AccessRefusedError('wrong-password');
  return jar.getCookieString(base);
}

async function formOf(response: SiteResponse, url: string, read: FormReader): Promise<PasswordForm | null> {
  const bytes = await readBounded(response, MAX_BYTES, 'cut');
  return bytes && bytes.length > 0 ? read(new TextDecoder().decode(bytes), url) : null;
}
