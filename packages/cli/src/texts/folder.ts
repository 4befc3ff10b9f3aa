import { catalogue } from '@pragmatica/core';

export const FOLDER = catalogue('cli.folder', {
  pull: 'write the draft into a folder: one readable file for each snippet, for your own version control',
  push: 'import a folder that "pull" wrote into the draft; first shows what would change and what the checks find',
  ofSet: 'live, staging, draft or the number of a release',
  dryRun: 'only show what would change',
  remove: 'also remove snippets that the folder does not have',
  force: 'push although the checks find new errors',
  publish: 'publish the draft after that, with this message',
  pullExamples:
    '\nThe folder holds site.yaml (time zone, fields, page groups, order) and snippets/KEY.html. A file of a snippet that is gone is removed.\n\nExample:\n  pragmatica pull site && git -C site diff',
  pushExamples:
    '\nExits with 1 when the checks find new errors; nothing is changed then. In continuous integration, give the token in PRAGMATICA_TOKEN.\n\nExamples:\n  pragmatica push site --dry-run\n  pragmatica push site --publish "Summer timetable"',
  import: 'import a file: a set into a site, or a whole site',
  importExamples:
    '\nA set (pragmatica export) goes into the site named by --site. A whole site (pragmatica export --whole) is added.\n\nExamples:\n  pragmatica import set.json --dry-run\n  pragmatica import skerrywick.json --as skerrywick-copy --without-hosts',
  as: 'key of the site that is added; that of the file unless you give one',
  withoutHosts: 'without the hosts; a host belongs to one site only',
  whole: 'write the whole site: its set, releases, recipes, hosts and accepted findings',
  wroteWhole: 'Wrote the whole site to {out}: {releases, plural, one {one release} other {# releases}}.',
  schema: 'print the JSON Schema of the file of a whole site',
  noFront:
    '{file} does not begin with its front matter: a line "---", what is said of the snippet, and "---" again.',
  badFront: '{file}: {problem}',
  partsDiffer:
    '{file} names {named, plural, one {one part} other {# parts}} at the top and has the code of {there}. Separate two parts with a line {separator}.',
  badPlacement:
    '{file}: “{at}” is not a placement. Use head-start, head-end, body-start, body-end, "inside #ID" or "before #ID".',
  noSite: 'There is no site.yaml in this folder. Write one with: pragmatica pull DIR',
  otherFormat: 'site.yaml is not in the format "{format}".',
  wrongField: '{file}, {field}: {detail}{more, plural, =0 {} other { And # more.}}',
  notEmpty: '{dir} has files in it, and no site.yaml. Choose another folder, or an empty one.',
  noFolder: 'There is no folder {dir}.',
  wrote:
    '{written, plural, =0 {Nothing has changed} one {Wrote one file} other {Wrote # files}}{removed, plural, =0 {} one {, removed one} other {, removed #}}. {dir} holds {snippets, plural, one {one snippet} other {# snippets}}.',
  wouldWrite: 'Would write {path}',
  wouldRemove: 'Would remove {path}',
  otherSite:
    'The set is of the site "{of}". Its page groups, fields and purposes come along where {site} has none of that name.',
  nothing: 'Nothing would change: the draft matches the file.',
  changes: '{count, plural, one {One change} other {# changes}}:',
  found:
    'The checks find {count, plural, one {one thing} other {# things}} that {count, plural, one {is} other {are}} new:',
  gone: '{count, plural, one {One finding is} other {# findings are}} gone with it.',
  kept: 'Not in the file, and kept: {names}. Use --remove to remove {count, plural, one {it} other {them}}.',
  stopped:
    'Nothing was changed: {count, plural, one {one new error} other {# new errors}}. Fix {count, plural, one {it} other {them}}, or use --force.',
  done: 'It is now in the draft of {site}. Publish it to show visitors: pragmatica publish -m "…"',
  published: 'Published as release {number, number}. It is live now.',
  onlyShown: 'Nothing was changed.',
  notAFile: '"{file}" is neither a set nor a whole site: its format is "{format}".',
  wouldAdd:
    'Would add the site "{key}" ({name}): {snippets, plural, one {one snippet} other {# snippets}}, {releases, plural, one {one release} other {# releases}}, {waivers, plural, one {one accepted finding} other {# accepted findings}}.',
  added:
    'Added the site "{key}" ({name}): {snippets, plural, one {one snippet} other {# snippets}}, {releases, plural, one {one release} other {# releases}}, {waivers, plural, one {one accepted finding} other {# accepted findings}}.',
  hosts: 'Hosts: {list}.',
  noHosts: 'Without hosts: add them with "pragmatica site host".',
  recipes: 'New recipes: {list}.',
});
