import { expect } from 'chai';
import { mentionAt, withMention } from '../../packages/console/src/views/comments/mention-at.js';

/** A text with the caret at the bar. */
function at(marked: string): readonly [text: string, caret: number] {
  return [marked.replace('|', ''), marked.indexOf('|')];
}

describe('a name that is being typed after an @', () => {
  it('is found where the caret stands', () => {
    expect(mentionAt(...at('Ask @we|'))).to.deep.equal({ start: 4, typed: 'we' });
    expect(mentionAt(...at('@|'))).to.deep.equal({ start: 0, typed: '' });
    expect(mentionAt(...at('Ask @we| or @isle'))).to.deep.equal({ start: 4, typed: 'we' });
    expect(mentionAt(...at('wenna@isle|'))).to.equal(undefined);
    expect(mentionAt(...at('Ask @we now|'))).to.equal(undefined);
  });

  it('is filled in, with a space behind it, and nothing else is lost', () => {
    expect(withMention(...at('Ask @we|'), 'wenna')).to.deep.equal({ text: 'Ask @wenna ', caret: 11 });
    expect(withMention(...at('Ask @we| today'), 'wenna').text).to.equal('Ask @wenna today');
    expect(withMention(...at('Ask|'), 'wenna').text).to.equal('Ask @wenna ');
    expect(withMention(...at('|'), 'wenna').text).to.equal('@wenna ');
  });
});
