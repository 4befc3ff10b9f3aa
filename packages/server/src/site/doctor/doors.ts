import type { RateLimitName } from '@pragmatica/contract';
import { localhostFetch } from '@pragmatica/contract/node';
import type { DoorFacts } from '@pragmatica/core';
import { whyNobodyAnswers } from '../network-words.js';

/** Where the installation is reached, as far as settings tell. */
export interface Doors {
  /** Where people reach the console. */
  readonly console: string;
  readonly consolePort: number;
  /** Where people reach previews. */
  readonly preview: string;
  readonly previewPort: number;
  /** At which a gateway of this machine listens. */
  readonly gatewayHost: string;
  readonly gatewayPort: number;
}

/** Which gateways there are, and whether any is needed. */
export interface GatewaysKnown {
  readonly everywhere: number;
  readonly here: number;
  readonly isNeeded: boolean;
}

const TIMEOUT_MS = 5_000;
/** What the gateway answers for a host that is nobody’s (RFC 9110, 15.5.20). */
const MISDIRECTED = 421;
/** No site can have it (RFC 6761, 6.4). */
const NOBODYS_HOST = 'doctor.invalid';
/** Each answer of the API says how many calls there may be. */
const OUR_LIMIT: RateLimitName = 'calls-of-installation';

/** Who answers where the installation is reached. A port that was left to the system to choose leads nobody anywhere. */
export async function knock(doors: Doors, gateways: GatewaysKnown): Promise<readonly DoorFacts[]> {
  const found = await Promise.all([
    doors.consolePort === 0 ? undefined : atConsole(doors),
    doors.previewPort === 0 ? undefined : atPreview(doors),
    doors.gatewayPort === 0 ? undefined : atGateway(doors, gateways),
  ]);
  return found.filter((one) => one !== undefined);
}

async function atConsole({ console: address, consolePort: port }: Doors): Promise<DoorFacts> {
  const isOurs = ({ headers }: Response): boolean =>
    headers.get('ratelimit-policy')?.includes(OUR_LIMIT) === true;
  return { door: 'console', address, port, ...(await ask(`${address}/api/v1/languages`, isOurs)) };
}

async function atPreview({ preview: address, previewPort: port }: Doors): Promise<DoorFacts> {
  const isOurs = (answer: Response): boolean =>
    answer.ok && answer.headers.get('x-robots-tag') === 'noindex, nofollow';
  return { door: 'preview', address, port, ...(await ask(`${address}/robots.txt`, isOurs)) };
}

/** Nothing is said of one that runs elsewhere; of none at all, only what keeps it from starting. */
async function atGateway(
  { gatewayHost, gatewayPort: port }: Doors,
  { everywhere, here, isNeeded }: GatewaysKnown,
): Promise<DoorFacts | undefined> {
  const address = `http://${gatewayHost}:${port}`;
  if (here === 0 && (everywhere > 0 || !isNeeded)) return undefined;
  const found = await ask(`${address}/`, ({ status }) => status === MISDIRECTED, {
    host: NOBODYS_HOST,
  });
  if (here === 0 && found.answered !== 'by-others') return undefined;
  return { door: 'gateway', address, port, ...found };
}

async function ask(
  address: string,
  isOurs: (answer: Response) => boolean,
  headers: Record<string, string> = {},
): Promise<Pick<DoorFacts, 'answered' | 'reason'>> {
  const signal = AbortSignal.timeout(TIMEOUT_MS);
  try {
    const answer = await localhostFetch(address, { redirect: 'manual', headers, signal });
    // Whoever it is may say what they like: nothing of it is read.
    await answer.body?.cancel();
    return { answered: isOurs(answer) ? 'by-us' : 'by-others', reason: null };
  } catch (error) {
    return { answered: 'by-nobody', reason: whyNobodyAnswers(error) };
  }
}
