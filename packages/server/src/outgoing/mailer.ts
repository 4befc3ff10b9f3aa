import { createTransport } from 'nodemailer';
import type { Settings } from '../settings.js';

/** Whatever sends a mail. */
export interface Mailer {
  /**
   * @param id - the same with each attempt, for whoever gets it twice
   * @returns what the server says
   * @throws what the server or the network says
   */
  send(mail: {
    readonly id: string;
    readonly to: string;
    readonly subject: string;
    readonly text: string;
  }): Promise<string>;
  /** Whether the server lets us in. @throws what the server or the network says */
  verify(): Promise<void>;
  close(): void;
}

const TIMEOUT_MS = 10_000;

/** Sends mails by the installation's mail server; undefined where it has none. */
export function createMailer({
  PRAGMATICA_SMTP_URL: url,
  PRAGMATICA_MAIL_FROM: from,
}: Pick<Settings, 'PRAGMATICA_SMTP_URL' | 'PRAGMATICA_MAIL_FROM'>): Mailer | undefined {
  if (url === undefined) return undefined;
  const transport = createTransport(
    {
      url,
      connectionTimeout: TIMEOUT_MS,
      greetingTimeout: TIMEOUT_MS,
      socketTimeout: TIMEOUT_MS,
    },
    { from },
  );
  return {
    async send({ id, to, subject, text }) {
      const { response } = await transport.sendMail({
        ...{ to, subject, text },
        messageId: `<${id}@pragmatica>`,
        // It is no answer to anybody, and nobody's holiday note answers it (RFC 3834).
        headers: { 'Auto-Submitted': 'auto-generated' },
      });
      return response;
    },
    async verify() {
      await transport.verify();
    },
    close: () => transport.close(),
  };
}
