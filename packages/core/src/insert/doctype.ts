/** Public identifiers of doctypes that mean quirks mode when they begin so (HTML Standard 13.2.6.4.1). */
const QUIRKS_PREFIXES = `+//silmaril//dtd html pro v0r11 19970101//
-//as//dtd html 3.0 aswedit + extensions//
-//advasoft ltd//dtd html 3.0 aswedit + extensions//
-//ietf//dtd html 2.0 level 1//
-//ietf//dtd html 2.0 level 2//
-//ietf//dtd html 2.0 strict level 1//
-//ietf//dtd html 2.0 strict level 2//
-//ietf//dtd html 2.0 strict//
-//ietf//dtd html 2.0//
-//ietf//dtd html 2.1e//
-//ietf//dtd html 3.0//
-//ietf//dtd html 3.2 final//
-//ietf//dtd html 3.2//
-//ietf//dtd html 3//
-//ietf//dtd html level 0//
-//ietf//dtd html level 1//
-//ietf//dtd html level 2//
-//ietf//dtd html level 3//
-//ietf//dtd html strict level 0//
-//ietf//dtd html strict level 1//
-//ietf//dtd html strict level 2//
-//ietf//dtd html strict level 3//
-//ietf//dtd html strict//
-//ietf//dtd html//
-//metrius//dtd metrius presentational//
-//microsoft//dtd internet explorer 2.0 html strict//
-//microsoft//dtd internet explorer 2.0 html//
-//microsoft//dtd internet explorer 2.0 tables//
-//microsoft//dtd internet explorer 3.0 html strict//
-//microsoft//dtd internet explorer 3.0 html//
-//microsoft//dtd internet explorer 3.0 tables//
-//netscape comm. corp.//dtd html//
-//netscape comm. corp.//dtd strict html//
-//o'reilly and associates//dtd html 2.0//
-//o'reilly and associates//dtd html extended 1.0//
-//o'reilly and associates//dtd html extended relaxed 1.0//
-//sq//dtd html 2.0 hotmetal + extensions//
-//softquad software//dtd hotmetal pro 6.0::19990601::extensions to html 4.0//
-//softquad//dtd hotmetal pro 4.0::19971010::extensions to html 4.0//
-//spyglass//dtd html 2.0 extended//
-//sun microsystems corp.//dtd hotjava html//
-//sun microsystems corp.//dtd hotjava strict html//
-//w3c//dtd html 3 1995-03-24//
-//w3c//dtd html 3.2 draft//
-//w3c//dtd html 3.2 final//
-//w3c//dtd html 3.2//
-//w3c//dtd html 3.2s draft//
-//w3c//dtd html 4.0 frameset//
-//w3c//dtd html 4.0 transitional//
-//w3c//dtd html experimental 19960712//
-//w3c//dtd html experimental 970421//
-//w3c//dtd w3 html//
-//w3o//dtd w3 html 3.0//
-//webtechs//dtd mozilla html 2.0//
-//webtechs//dtd mozilla html//`.split('\n');
const QUIRKS_WITHOUT_SYSTEM_ID = ['-//w3c//dtd html 4.01 frameset//', '-//w3c//dtd html 4.01 transitional//'];
const QUIRKS_PUBLIC_IDS = new Set([
  '-//w3o//dtd w3 html strict 3.0//en//',
  '-/w3c/dtd html 4.0 transitional/en',
  'html',
]);
/** The Standard names this address; it is never fetched. */
const QUIRKS_SYSTEM_ID = 'http://www.ibm.com/data/dtd/v11/ibmxhtml1-transitional.dtd';

/**
 * Whether a doctype means quirks mode (HTML Standard 13.2.5.53–68 and 13.2.6.4.1).
 * @param doctype - the whole token, from `<!doctype` to its `>`
 */
export function isQuirksDoctype(doctype: string): boolean {
  let isQuirks = known.get(doctype);
  if (isQuirks === undefined) {
    isQuirks = readDoctype(doctype);
    // There are few in use; more are not kept.
    if (known.size < MAX_KNOWN) known.set(doctype, isQuirks);
  }
  return isQuirks;
}

const known = new Map<string, boolean>();
const MAX_KNOWN = 100;

function readDoctype(doctype: string): boolean {
  const text = doctype.slice('<!doctype'.length, -1);
  const named = /^[\t\n\f\r ]*([^\t\n\f\r ]+)/.exec(text);
  if (named?.[1]!.toLowerCase() !== 'html') return true;
  const rest = text.slice(named[0].length).replace(/^[\t\n\f\r ]+/, '');
  if (rest === '') return false;
  const keyword = rest.slice(0, 6).toLowerCase();
  const ids = rest.slice(6);
  if (keyword === 'system') {
    const system = quoted(ids);
    return system === undefined || isQuirksSystemId(system.value);
  }
  if (keyword !== 'public') return true;
  const publicId = quoted(ids);
  if (publicId === undefined) return true;
  const hasSystemId = publicId.rest.trimStart() !== '';
  const systemId = hasSystemId ? quoted(publicId.rest) : undefined;
  if (hasSystemId && (systemId === undefined || isQuirksSystemId(systemId.value))) return true;
  const id = publicId.value.toLowerCase();
  const startsWith = (prefix: string): boolean => id.startsWith(prefix);
  return (
    QUIRKS_PUBLIC_IDS.has(id) ||
    QUIRKS_PREFIXES.some(startsWith) ||
    (!hasSystemId && QUIRKS_WITHOUT_SYSTEM_ID.some(startsWith))
  );
}

function isQuirksSystemId(id: string): boolean {
  return id.toLowerCase() === QUIRKS_SYSTEM_ID;
}

/** An identifier in quotes after white space; undefined where it is missing or not closed. */
function quoted(text: string): { value: string; rest: string } | undefined {
  const found = /^[\t\n\f\r ]*(?:"([^"]*)"|'([^']*)')/.exec(text);
  return found ? { value: found[1] ?? found[2] ?? '', rest: text.slice(found[0].length) } : undefined;
}
