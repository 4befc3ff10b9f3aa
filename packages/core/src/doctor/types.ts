import type { DOCTOR_TEXTS } from '../texts/doctor.js';

/** How something stands. */
export type Health = 'well' | 'warning' | 'problem';

/** What can be examined. */
export type ExaminationId = keyof typeof DOCTOR_TEXTS.titles;

/** What an examination says of one thing. */
export interface Diagnosis {
  /** Of the examination. */
  readonly id: ExaminationId;
  /** What was examined, in words. */
  readonly title: string;
  /** What it is about where there are several: a host, a folder. Null for the installation. */
  readonly about: string | null;
  readonly health: Health;
  readonly said: string;
  /** What to do; empty where nothing is to be done. */
  readonly advice: string;
}

export interface DiskFacts {
  readonly folder: string;
  readonly freeBytes: number;
  readonly allBytes: number;
}

/** What came of asking a host for its front page. */
export interface HostFacts {
  readonly host: string;
  readonly address: string;
  /** Null where nothing answered. */
  readonly status: number | null;
  /** Why nothing did, in words. */
  readonly reason: string | null;
  /** When its certificate ends; null where it has none, or that is not known. */
  readonly certificateUntil: Date | null;
}

/** Where the installation is reached: by people at an address, by visitors at a port of this machine. */
export interface DoorFacts {
  readonly door: 'console' | 'preview' | 'gateway';
  readonly address: string;
  /** The port of this machine that it leads to. */
  readonly port: number;
  readonly answered: 'by-us' | 'by-others' | 'by-nobody';
  /** Why nobody did, in words. */
  readonly reason: string | null;
}

/** All that an installation is judged by. */
export interface InstallationFacts {
  readonly now: Date;
  readonly database: {
    readonly answerMs: number;
    /** How far its clock is ahead of the service's. */
    readonly skewMs: number;
    /** Migrations that this service has and the database has not seen. */
    readonly missing: number;
    /** Migrations that the database has seen and this service does not have. */
    readonly unknown: number;
  };
  readonly disks: readonly DiskFacts[];
  readonly backups: {
    readonly isOn: boolean;
    readonly lastAt: Date | null;
    /** Why the newest try failed; null where it did not. */
    readonly failure: string | null;
  };
  readonly workers: number;
  readonly gateways: number;
  /** Hosts whose pages get their parts from a gateway. */
  readonly gatewayHosts: number;
  /** Surveys and rounds of visits that nobody has begun for ten minutes. */
  readonly stuck: number;
  /** What was sealed with a key that is not the installation's. */
  readonly unopened: readonly string[];
  readonly mail: {
    readonly isSet: boolean;
    /** What the mail server says; null where all is well. */
    readonly problem: string | null;
    /** Sites that are to send some. */
    readonly wanted: number;
  };
  /** Null where none is set. */
  readonly identityProvider: { readonly name: string; readonly problem: string | null } | null;
  readonly address: { readonly isHttps: boolean; readonly hasSecureCookies: boolean };
  readonly doors: readonly DoorFacts[];
  readonly hosts: readonly HostFacts[];
}

/** What an examination finds. */
export type Found = Omit<Diagnosis, 'id' | 'title'>;

/** One thing that an installation is examined for. One more is one more file and one line in the registry. */
export interface Examination {
  readonly id: ExaminationId;
  examine(facts: InstallationFacts): readonly Found[];
}

/** Something about the installation as a whole. */
export function ofAll(health: Health, said: string, advice = ''): readonly Found[] {
  return [{ about: null, health, said, advice }];
}
