import { catalogue } from '@pragmatica/core';

/** What is said of content policies. */
export const POLICY_TEXTS = catalogue('server.policy', {
  off: 'The gateway sends no content policy for {host} any more.',
  report: 'The gateway sends a content policy for {host} on trial: browsers report, and stop nothing.',
  enforce: 'The gateway sends a content policy for {host}: browsers stop what it does not allow.',
  cleared: 'Cleared what browsers had reported of {host}.',
  loads:
    '{enforced, select, yes {Was blocked} other {Would be blocked}}: something from {blocked} ({directive}).',
  inline:
    '{enforced, select, yes {Was blocked} other {Would be blocked}}: an inline script or style ({directive}){sample, select, other {: “{sample}…”} _ {}}.',
  attribute:
    '{enforced, select, yes {Was blocked} other {Would be blocked}}: an event handler or style written into a tag ({directive}).',
  other: '{enforced, select, yes {Was blocked} other {Would be blocked}}: {blocked} ({directive}).',
  cause:
    '{by, select, loads {“{name}” loads it.} file {A file that “{name}” loads does it ({source}).} code {It is code of “{name}”.} other {It belongs to the page itself{source, select, other { ({source})} _ {}}, not to a snippet.}}',
});
