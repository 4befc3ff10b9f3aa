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
  title: 'A snippet that follows an older version of its recipe',
  why: 'The provider’s install has changed since. Older code mostly goes on working for a while, and then stops on a day that nobody notices.',
  given: 'The first follows version 1 of a recipe that has a version 2; the second follows none.',
  recipes: [
    FIRST,
    { ...FIRST, version: 2, changes: 'The chat loads after the page, so that the page shows sooner.' },
  ],
  asks: ['recipes'],
  messages: {
    behind: {
      title: '“{snippet}” follows version {version} of “{recipe}”, and there is version {newest}',
      advice: 'See what it would change and bring the snippet up to it.',
    },
    'behind-with-news': {
      title: '“{snippet}” follows version {version} of “{recipe}”, and there is version {newest}',
      advice: '{news} See what it would change and bring the snippet up to it.',
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
