/** Work that the service does by itself, off every request. One more is one more file and one line in the registry. */
export interface Job {
  /** As the log names it. */
  readonly name: string;
  /** So long after a round the next one begins, unless somebody asks for it earlier. */
  readonly everyMs: number;
  /** Whether a change that somebody makes asks for a round. @defaultValue false */
  readonly followsChanges?: boolean;
  /** One round. It ends early when the signal is aborted; what it throws is logged, and the next round comes. */
  run(signal: AbortSignal): Promise<void>;
}
