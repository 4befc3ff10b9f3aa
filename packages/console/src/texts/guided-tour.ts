import { catalogue } from '@pragmatica/core';

/** What a newcomer is shown, step by step. */
export const TOUR = catalogue('console.tour', {
  offerTitle: 'New here?',
  offerText: 'See in two minutes how it works, on the demo site. You can leave at any step.',
  start: 'Take the tour',
  decline: 'No, thanks',
  again: 'Take the tour',
  step: 'Step {step} of {steps}',
  back: 'Back',
  next: 'Next',
  leave: 'Leave the tour',
  finish: 'Done',
  steps: {
    sites: {
      title: 'All your sites, one row each',
      text: 'A row says what needs somebody, and what visitors do not get yet. Sites that need you most come first.',
    },
    strip: {
      title: 'A page, from top to bottom',
      text: 'Your snippets stand where they land in the page. Above, ask about another page, a phone, another hour, or a visitor who refused consent.',
    },
    snippets: {
      title: 'Snippets: your code, with its pages and hours',
      text: 'Paste what a provider gave you. Everything you change is a draft: visitors get it when you publish.',
    },
    findings: {
      title: 'Mistakes, found before visitors meet them',
      text: 'Two counters on one page, a wrong order, code cut off while copying. Each says what to do, and most are fixed with one click.',
    },
    delivery: {
      title: 'Into your pages, whatever your site is built with',
      text: 'By the gateway, with one line pasted once, with blocks to paste, or as files. Answer two questions, and you get the way that fits.',
    },
    check: {
      title: '“Why doesn’t it show?”',
      text: 'A real browser visits your pages as a newcomer would. You get one answer, and the one thing to do.',
    },
    releases: {
      title: 'Nothing is lost',
      text: 'Every publication is a release that you can go back to. Activity shows each change, and undoes it.',
    },
    help: {
      title: 'Help, wherever you are',
      text: 'There is a question mark beside everything technical, and “Find” takes you anywhere by a few letters. This tour is in the menu under your name.',
    },
  },
});
