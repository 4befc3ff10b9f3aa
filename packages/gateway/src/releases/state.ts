import type { Environment, SentPolicy, Transfer } from '@pragmatica/contract';

/** A host that is served. */
export interface HostState {
  readonly host: string;
  readonly site: string;
  readonly environment: Environment;
  /** Where pages come from; several take turns. */
  readonly origins: readonly string[];
  /** How pages come from there. */
  readonly transfer: Transfer;
  /** Whether the gateway puts the parts into its pages; otherwise these pass as they are. @defaultValue true */
  readonly isDelivered?: boolean;
  /** The content policy that is sent with its pages; left out where they keep their own as it is. */
  readonly policy?: SentPolicy;
  /** Id of the release, or null while nothing is published. */
  readonly release: number | null;
}

/** A release by name: its content lies in a file of its own, which never changes. */
export interface ReleaseState {
  readonly id: number;
  readonly number: number;
  readonly digest: string;
  /** SHA-256 of the snapshot's text, as it lies on disk. */
  readonly sha256: string;
}

/** All that the gateway needs to serve, as plain data. */
export interface GatewayState {
  readonly hosts: readonly HostState[];
  readonly releases: readonly ReleaseState[];
}

/** What the serving processes are sent. */
export interface StateMessage {
  readonly state: GatewayState;
  /** Texts of releases that could not be written to disk, by id. Empty as long as the disk works. */
  readonly texts: Readonly<Record<number, string>>;
}

/** What a serving process says once it can take a state. */
export const WANTS_STATE = 'pragmatica:state';
