import { commentNotice, commentRights, readComment } from '@pragmatica/core';
import { expect } from 'chai';
import fc from 'fast-check';

const LOGINS = ['wenna', 'isle', 'nell.b', 'jago@skerrywick.example', 'a'];

describe('whom a comment mentions', () => {
  const cases: readonly (readonly [says: string, text: string, named: string[], unknown: string[]])[] = [
    ['a login after an @', 'Please look, @wenna', ['wenna'], []],
    ['at the very beginning', '@isle it is yours', ['isle'], []],
    ['whatever the case', '@Wenna and @ISLE', ['wenna', 'isle'], []],
    ['without the stop that ends a sentence', 'Ask @wenna. Or @isle?', ['wenna', 'isle'], []],
    ['with a stop within', 'For @nell.b.', ['nell.b'], []],
    [
      'a login that is a mail address',
      'For @jago@skerrywick.example, please',
      ['jago@skerrywick.example'],
      [],
    ],
    ['each once', '@isle @isle', ['isle'], []],
    ['nobody by a mail address', 'Write to wenna@isle or to wenna.@isle', [], []],
    ['nobody by the beginning of a word', 'See @wennas', [], ['wennas']],
    ['nobody whom nobody knows', 'Ask @tegen, then @tegen.', [], ['tegen']],
    ['not an @ alone', 'at @ noon, @@ and @a', [], []],
  ];
  for (const [says, text, named, unknown] of cases)
    it(says, () => {
      const read = readComment(text, LOGINS);
      expect(read.named).to.deep.equal(named);
      expect(read.unknown).to.deep.equal(unknown);
    });

  it('loses no character, and links only logins', () => {
    const word = fc.constantFrom('@wenna', '@Isle', '@tegen', '.', ' ', '\n', 'text', '@', 'ü', '👋');
    fc.assert(
      fc.property(fc.array(word), (words) => {
        const text = words.join('');
        const { pieces, named } = readComment(text, LOGINS);
        expect(pieces.map((piece) => piece.text).join('')).to.equal(text);
        for (const { text: said, login } of pieces)
          if (login !== undefined) expect(said.toLowerCase()).to.equal(`@${login}`);
        expect(new Set(pieces.flatMap(({ login }) => login ?? []))).to.deep.equal(new Set(named));
      }),
    );
  });

  it('is read in time, whatever it is', () => {
    const text = '@b.'.repeat(200_000) + '@'.repeat(200_000) + `@${'.'.repeat(200_000)}`;
    expect(readComment(text, LOGINS).named).to.deep.equal([]);
  });
});

describe('a comment', () => {
  it('belongs to whoever wrote it; editors close it, owners remove it', () => {
    const all = { canEdit: true, canClose: true, canRemove: true };
    expect(commentRights('wenna', 'wenna', ['view'])).to.deep.equal(all);
    expect(commentRights('wenna', 'isle', ['view'])).to.deep.equal({
      ...{ canEdit: false, canClose: false, canRemove: false },
    });
    expect(commentRights('wenna', 'isle', ['view', 'edit'])).to.deep.include({
      ...{ canClose: true, canRemove: false },
    });
    expect(commentRights('wenna', 'isle', ['view', 'edit', 'publish', 'own']).canRemove).to.equal(true);
  });

  it('is quoted in the mail about it', () => {
    const { subject, text } = commentNotice({
      ...{ site: 'Skerrywick Ferries', by: 'Wenna', about: 'Harbour chat' },
      ...{ text: 'Why on every page?\n\n@isle', address: 'https://pragmatica.example/x' },
    });
    expect(subject).to.equal('Skerrywick Ferries: Wenna commented: Harbour chat');
    expect(text).to.include(
      'Wenna mentioned you in a comment.\n\nOn: Harbour chat\n\n> Why on every page?\n>\n> @isle\n',
    );
    expect(text).to.include('https://pragmatica.example/x');
  });
});
