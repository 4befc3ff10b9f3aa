import { catalogue } from './catalogue.js';

export const FIELDS_TEXTS = catalogue('core.fields', {
  standsNameTag: 'It is in the name of a tag or an attribute, or outside what a browser reads.',
  standsComment: 'It is in a comment.',
  standsNameWhich: 'It is in “{name}”, which has rules of its own.',
  standsScriptType: 'It is in a script of the type “{type}”, whose rules are not known.',
  standsRegularExpression: 'It is in a regular expression.',
  standsNameSomething: 'It is part of a name in the script. Put it in quotes.',
  standsCommentScript: 'It is in a comment of the script, or in a script that cannot be read.',
  standsJsonWhere: 'It is in JSON, at a place where neither a string nor a value can be.',
  mayHoldOne: 'Use one line of at most 500 characters.',
  mayHoldLetters: 'Use only letters, digits, dots, colons, slashes, dashes and underscores.',
  writeNumberLike: 'Write a number like 5 or 2.5.',
  eitherTrueFalse: 'Use true or false.',
  writeColourLike: 'Write a colour like #12303a.',
  writeWholeAddress: 'Write a whole address like https://www.example.com/.',
  writeTelephoneNumber: 'Write a telephone number like +353 1 555 0100.',
});
