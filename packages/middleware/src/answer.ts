export interface InsertSettings {
  /**
   * Whether a content policy that the answer comes with is extended by what the parts need. Its nonce they get in any case.
   *
   * @defaultValue false
   */
  readonly extendPolicy?: boolean;
}

/** The headers of an answer, wherever they are kept. */
export interface AnswerHeaders {
  get(name: string): string | undefined;
  set(name: string, value: string): void;
  remove(name: string): void;
}
