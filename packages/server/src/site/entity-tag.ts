/** A strong entity tag (RFC 9110, 8.8.3) for a version of something. */
export function etag(value: string | number): string {
  return `"${value}"`;
}

export interface LastChange {
  readonly by: string;
  readonly at: Date;
}
