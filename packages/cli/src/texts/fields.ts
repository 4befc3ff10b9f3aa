import { catalogue } from '@pragmatica/core';

export const FIELDS = catalogue('cli.fields', {
  valuesCodeWritten: "values in code, written @'{'name'}' there, for each site",
  fieldsSiteSeveral: 'the fields of a site, or of several, and their values',
  defineFieldSite: 'define a field of a site, or change what it is',
  whatHolds: 'what it holds',
  whatPeopleCall: 'what people call it',
  providerSOwn: 'the provider’s own example; the field counts as not set while it has this value',
  value: 'its value',
  examplePragmaticaField:
    '\nExample:\n  pragmatica field define counter_account --type id --label "Account at Tallymast" --example TM-0000 --value TM-1887',
  writeFieldInCode: 'Write {field} in the code, within quotes or in a text. Its values:\n',
  giveFieldsNew: 'give fields new values, for one site or for several',
  thereOnly: 'there only',
  examplesPragmaticaField:
    '\nExamples:\n  pragmatica field set counter_account=TM-1887\n  pragmatica field set test=true --environment staging --all-sites\n  pragmatica field set phone=  (removes the value)',
  takeFieldAway: 'remove a field; code that uses it can then not be published',
  siteKeyHas: 'The site "{key}" has no field "{name}".',
  tookFieldName: 'Removed the field "{name}".',
  writeNameValue: 'Write it as NAME=VALUE, like counter_account=TM-1887; this was "{typed}".',
  noFieldsYet: 'No fields yet. Define one with: pragmatica field define NAME --type id --value VALUE',
  notSet: 'not set',
});
