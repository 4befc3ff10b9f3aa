export const DELIVER_TEXTS = {
  folderFiles: 'a folder of files',
  filesCannotAsk: 'Files cannot ask: it was decided for now, a desktop and no consent.',
  gateway: 'the gateway',
  sheet: {
    title: '{site}: code to paste, release {release, number}',
    intro:
      'Each block goes whole into the box named above it, over what stood there of ours before: from the line that begins with “Pragmatica” to the one that begins with “/Pragmatica”. Whatever else is in the box stays. Save, then publish the site.',
    ofPage: '{box}: {page}',
    step: '{state, select, done {Pasted already, in} outdated {Paste over the older block, in} other {Paste, in}} {where}',
    removeTitle: 'Remove',
    remove: 'Remove our block from “{name}”, in {where}. Nothing goes there any more.',
    end: 'To see whether it is there, open the site in a private window and reload it.',
  },
  sights: {
    right: '“{name}” holds release {release}, as it should.',
    missing: '“{name}” holds nothing of ours. Was it pasted and saved, and was the site published?',
    altered:
      '“{name}” holds release {release}, but not as it was copied: something is missing or changed. Paste it again; if it stays so, the box strips code.',
    outdated: '“{name}” still holds release {release}. Paste release {now} over it.',
    twice:
      '“{name}” holds more than one block: an old one still stands beside the new one. Remove all of them, then paste once.',
    needless: '“{name}” still holds release {release}, and nothing goes there any more. Remove it.',
  },
  boxSiteHead: 'the head of all pages',
  boxSiteFoot: 'the foot of all pages',
  boxPageHead: 'the head of one page',
  boxPageContent: 'the content of one page',
  noHeadBox:
    '“{name}” goes {where}, and there is no box for the head. Move it to the end of the body if its provider allows that, or use the one line.',
  noBodyBox:
    '“{name}” goes {where}, and there is no box that reaches there. Describe the foot box of your site builder, if it has one.',
  boxStrips:
    '“{name}” goes {where}, and needs a script there, which the box strips out. Use a box that keeps scripts, or the one line.',
  tooManyPages:
    '“{name}” would have to be pasted into {pages, number} pages one by one; {most, number} are the most that anybody gets right. Describe a box for all pages, if there is one.',
  nameRunsWords: '“{name}” runs {words}. {onceWords}',
} as const;
