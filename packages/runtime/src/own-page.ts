import type { ServerResponse } from 'node:http';

/** A page of our own, in words. */
export interface OwnPage {
  readonly status: number;
  readonly title: string;
  readonly text: string;
  /** Of its words: BCP 47. */
  readonly language: string;
}

/** Sends a page of our own: only where no site is meant, or the site does not answer. */
export function sendOwnPage(response: ServerResponse, { status, title, text, language }: OwnPage): void {
  if (response.headersSent) {
    response.destroy();
    return;
  }
  const body = `<!doctype html>
<html lang="${escape(language)}">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>${escape(title)}</title>
<style>
  :root { color-scheme: light dark; font: 1.1rem/1.6 system-ui, sans-serif; }
  body { max-width: 34rem; margin: 18vh auto 0; padding: 0 1.5rem; }
  h1 { font-size: 1.5rem; line-height: 1.25; }
</style>
<h1>${escape(title)}</h1>
<p>${escape(text)}</p>
</html>
`;
  response.writeHead(status, {
    'content-type': 'text/html; charset=utf-8',
    'content-length': Buffer.byteLength(body),
    'cache-control': 'no-store',
    'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'",
  });
  response.end(body);
}

function escape(text: string): string {
  return text.replace(/[&<>"']/g, (character) => `&#${character.charCodeAt(0)};`);
}
