import type { AddressInfo } from 'node:net';
import { SMTPServer } from 'smtp-server';

export interface ReceivedMail {
  readonly from: string;
  readonly to: readonly string[];
  /** As it came: headers, an empty line, the text. */
  readonly source: string;
}

/** A real mail server on loopback that keeps what it gets. */
export interface MailServer {
  readonly url: string;
  readonly mails: ReceivedMail[];
  /** While set, it takes no mail, and says this. */
  refusal: string | undefined;
  close(): Promise<void>;
}

export async function startMailServer(): Promise<MailServer> {
  const mails: ReceivedMail[] = [];
  const state: { refusal: string | undefined } = { refusal: undefined };
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS'],
    onRcptTo: (_, __, callback) => callback(state.refusal === undefined ? null : new Error(state.refusal)),
    onData(stream, session, callback) {
      let source = '';
      stream.on('data', (chunk: Buffer) => (source += chunk.toString()));
      stream.on('end', () => {
        const { mailFrom, rcptTo } = session.envelope;
        mails.push({
          from: mailFrom === false ? '' : mailFrom.address,
          to: rcptTo.map(({ address }) => address),
          source,
        });
        callback();
      });
    },
  });
  await new Promise<void>((resolve) => {
    server.listen(0, '127.0.0.1', () => resolve());
  });
  const { port } = server.server.address() as AddressInfo;
  return {
    url: `smtp://127.0.0.1:${port}`,
    mails,
    get refusal() {
      return state.refusal;
    },
    set refusal(text) {
      state.refusal = text;
    },
    close: () => new Promise((resolve) => server.close(() => resolve())),
  };
}
