import { XMLBuilder } from 'fast-xml-parser';

/** What XML 1.0 cannot hold, not even escaped (section 2.2): control characters, halves of pairs, two non-characters. */
const NOT_XML = /(?![\t\n\r])[\p{Cc}\p{Cs}\ufffe\uffff]/gu;

export interface JunitCase {
  readonly '@name': string;
  readonly '@classname': string;
  readonly '@time': '0';
  readonly failure?: { readonly '@message': string; readonly '@type': string; readonly '#text': string };
  readonly skipped?: { readonly '@message': string };
  readonly 'system-out'?: string;
}

/** A JUnit report, for programs that run tests. @param suites - cases by the name of their suite */
export function junitDocument(
  name: string,
  suites: readonly (readonly [name: string, cases: readonly JunitCase[]])[],
): string {
  const made = suites.map(([suite, cases]) => ({
    '@name': plainXml(suite),
    '@tests': cases.length,
    '@failures': cases.filter(({ failure }) => failure).length,
    '@errors': 0,
    '@skipped': cases.filter(({ skipped }) => skipped).length,
    testcase: cases,
  }));
  const sum = (of: '@tests' | '@failures' | '@skipped'): number =>
    made.reduce((total, entry) => total + entry[of], 0);
  const builder = new XMLBuilder({ attributeNamePrefix: '@', ignoreAttributes: false, format: true });
  return builder.build({
    '?xml': { '@version': '1.0', '@encoding': 'UTF-8' },
    testsuites: {
      '@name': plainXml(name),
      '@tests': sum('@tests'),
      '@failures': sum('@failures'),
      '@errors': 0,
      '@skipped': sum('@skipped'),
      testsuite: made,
    },
  });
}

/** A text as XML may hold it. */
export function plainXml(text: string): string {
  return text.replace(NOT_XML, '\ufffd');
}
