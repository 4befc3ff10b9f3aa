const ZONE =
  /(?<=["'])(?:Africa|America|Asia|Atlantic|Australia|Europe|Indian|Pacific)\/[A-Z][A-Za-z_]+(?:\/[A-Z][A-Za-z_]+)?(?=["'])/;

/** The first time zone that code names as a text of its own, as the IANA calls them. */
export function timeZoneIn(code: string): string | undefined {
  return ZONE.exec(code)?.[0];
}
