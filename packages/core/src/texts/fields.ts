import { catalogue } from './catalogue.js';

export const FIELDS_TEXTS = catalogue('core.fields', {
  standsNameTag: 'It stands in the name of a tag or of an attribute, or outside of what a browser reads.',
  standsComment: 'It stands in a comment.',
  standsNameWhich: 'It stands in “{name}”, which has rules of its own.',
  standsScriptType: 'It stands in a script of the type “{type}”, whose rules nobody knows.',
  standsRegularExpression: 'It stands in a regular expression.',
  standsNameSomething: 'It stands in the name of something in the script. Put it in quotes.',
  standsCommentScript: 'It stands in a comment of the script, or in a script that cannot be read.',
  standsJsonWhere: 'It stands in JSON where neither a string nor a value can be.',
  mayHoldOne: 'It may hold one line of at most 500 characters.',
  mayHoldLetters: 'It may hold letters, digits, dots, colons, slashes, dashes and underscores.',
  writeNumberLike: 'Write a number like 5 or 2.5.',
  eitherTrueFalse: 'It is either true or false.',
  writeColourLike: 'Write a colour like #12303a.',
  writeWholeAddress: 'Write a whole address like https://www.example.com/.',
  writeTelephoneNumber: 'Write a telephone number like +353 1 555 0100.',
});
