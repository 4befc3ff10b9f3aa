import { DOCTOR_TEXTS } from '../texts/doctor.js';
import { say } from '../texts/say.js';
import type { Examination, Found, Health, HostFacts } from './types.js';

const DAY_MS = 86_400_000;
/** Days before its end within which a certificate is renewed where that happens by itself. */
const SOON_DAYS = 20;
const VERY_SOON_DAYS = 5;

export const hosts: Examination = {
  id: 'hosts',
  examine({ now, hosts: all }) {
    return all.map((facts) => {
      const found = [ofAnswer(facts), ofCertificate(facts, now)].filter((one) => one !== undefined);
      const worst = found.find(({ health }) => health === 'problem') ?? found[0];
      return { about: facts.host, ...(worst ?? WELL) };
    });
  },
};

type FoundOfHost = Omit<Found, 'about'>;
const WELL: FoundOfHost = {
  health: 'well',
  get said() {
    return DOCTOR_TEXTS.hostWell;
  },
  advice: '',
};

function ofAnswer({ address, status, reason }: HostFacts): FoundOfHost | undefined {
  if (status === null)
    return found(
      'problem',
      say(DOCTOR_TEXTS.hostAway, { address, reason: reason ?? '' }),
      DOCTOR_TEXTS.hostAwayAdvice,
    );
  const words = { address, status: String(status) };
  if (status >= 500)
    return found('problem', say(DOCTOR_TEXTS.hostTrouble, words), DOCTOR_TEXTS.hostTroubleAdvice);
  if (status === 401 || status === 403)
    return found('warning', say(DOCTOR_TEXTS.hostRefuses, words), DOCTOR_TEXTS.hostRefusesAdvice);
  return undefined;
}

function ofCertificate({ certificateUntil: until }: HostFacts, now: Date): FoundOfHost | undefined {
  if (!until) return undefined;
  const days = (until.getTime() - now.getTime()) / DAY_MS;
  if (days >= SOON_DAYS) return undefined;
  const day = until.toISOString().slice(0, 10);
  const said = say(days < 0 ? DOCTOR_TEXTS.certificateOver : DOCTOR_TEXTS.certificateSoon, { day });
  return found(days < VERY_SOON_DAYS ? 'problem' : 'warning', said, DOCTOR_TEXTS.certificateAdvice);
}

function found(health: Health, said: string, advice: string): FoundOfHost {
  return { health, said, advice };
}
