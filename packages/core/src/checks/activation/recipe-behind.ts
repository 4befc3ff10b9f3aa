import { recipeDifference } from '../../recipes/index.js';
import { exampleRecipe } from '../examples.js';
import { defineCheck } from '../check.js';

const CHAT = '<script async src="https://parlanook.example/chat.js"></script>';
const FIRST = exampleRecipe('parlanook-chat', 'Parlanook chat', {
  parts: [{ key: 'loader', placement: 'body-end', required: true, code: CHAT }],
});

export const recipeBehind = defineCheck({
  id: 'recipe-behind',
  area: 'activation',
  severity: 'advice',
  title: 'A snippet follows an older version of its recipe',
  why: 'The provider’s install has changed since. Older code usually works for a while, then stops one day without anybody noticing.',
  given: 'The first follows version 1 of a recipe that has a version 2; the second follows none.',
  recipes: [
    FIRST,
    { ...FIRST, version: 2, changes: 'The chat loads after the page, so that the page shows sooner.' },
  ],
  asks: ['recipes'],
  messages: {
    behind: {
      title: '“{snippet}” uses version {version} of “{recipe}”; the newest is {newest}',
      advice: 'See what would change, and update the snippet.',
    },
    'behind-with-news': {
      title: '“{snippet}” uses version {version} of “{recipe}”; the newest is {newest}',
      advice: '{news} See what would change, and update the snippet.',
    },
  },
  isFixable: false,
  wrong: [{ name: 'Harbour chat', recipe: 'parlanook-chat', parts: [{ placement: 'body-end', code: CHAT }] }],
  right: [{ name: 'Harbour chat', parts: [{ placement: 'body-end', code: CHAT }] }],
  *run({ snapshot, book }) {
    for (const { key, name, state, recipe: link } of snapshot.snippets) {
      const newest = link && book.find(link.key);
      if (state === 'archived' || !newest || newest.version <= link.version) continue;
      const followed = book.followed(link);
      const news = followed ? recipeDifference(followed, newest) : [];
      yield {
        about: `${link.key} ${newest.version}`,
        message: news.length === 0 ? 'behind' : 'behind-with-news',
        params: {
          snippet: name,
          version: link.version,
          recipe: newest.name,
          newest: newest.version,
          news: news.join(' '),
        },
        subjects: [{ snippet: key, name }],
        evidence: [],
      };
    }
  },
});
