import {
  isAboutSettings,
  providerWords,
  readCode,
  settingsWords,
  suggestNames,
  versionedFile,
} from '@pragmatica/core';
import { expect } from 'chai';
import { CORPUS } from '../corpus/corpus.js';

describe('versions in addresses', () => {
  const CASES: readonly [address: string, library: string | undefined, version?: string][] = [
    ['https://files.example/deckhand-3.2.1.min.js', 'deckhand', '3.2.1'],
    ['https://files.example/deckhand-3.2.1.js?x=1', 'deckhand', '3.2.1'],
    ['//files.example/deckhand@2.0.0/dist/deckhand.min.js', 'deckhand', '2.0.0'],
    ['https://files.example/libs/deckhand/3.4.1/deckhand.min.js', 'deckhand', '3.4.1'],
    ['https://files.example/sails.v4.0.js', 'sails', '4.0'],
    ['https://files.example/Rigging-1.12.4.css', 'rigging', '1.12.4'],
    ['https://files.example/deckhand.js', undefined],
    ['https://files.example/v2.js', undefined],
    ['https://files.example/chat/widget', undefined],
    ['https://files.example/photo-2.1.png', undefined],
    ['https://127.0.0.1/count.js', undefined],
  ];
  for (const [address, library, version] of CASES)
    it(`${address}: ${library === undefined ? 'none' : `${library} ${version!}`}`, () =>
      expect(versionedFile(address)).to.deep.equal(library === undefined ? undefined : { library, version }));
});

describe('whose settings are', () => {
  it('is told by the words of their name that are not general', () => {
    expect(settingsWords('parlanookSettings')).to.deep.equal(['parlanook']);
    expect(settingsWords('crateline_data_layer')).to.deep.equal(['crateline']);
    expect(settingsWords('config')).to.deep.equal([]);
    expect(settingsWords('app')).to.deep.equal([]);
  });

  it('is told by the provider’s own name, not by a part of its address', () => {
    expect(providerWords('https://chat.cdn.parlanook.example/widget.js')).to.deep.equal(['parlanook']);
    expect(providerWords('/own/script.js')).to.deep.equal([]);
  });

  it('fits a script that bears the name anywhere', () => {
    expect(isAboutSettings('parlanookSettings', 'https://cdn.parlanook.example/chat.js')).to.equal(true);
    expect(isAboutSettings('parlanookSettings', 'https://cdn.tallymast.example/chat.js')).to.equal(false);
  });
});

describe('names that are suggested', () => {
  const names = (code: string) => suggestNames(readCode(code));

  it('say who it is from and what it is', () => {
    expect(names('<script async src="https://cdn.parlanook.example/chat.js"></script>')).to.deep.equal({
      name: 'Parlanook chat',
      provider: 'Parlanook',
      purpose: 'Lets visitors ask us something while they look.',
    });
  });

  it('go without a provider where the code talks to nobody', () => {
    expect(names('<style>p { color: navy }</style>')).to.include({ name: 'Style rules', provider: '' });
    expect(names('<script>window.x = 1;</script>').name).to.equal('Script');
  });

  it('do not say what it is where that is only guessed', () => {
    const guessed = names('<script async src="https://widget.parlanook.example/w?id=PN-4471"></script>');
    expect(guessed).to.include({ name: 'Parlanook script', purpose: '' });
  });

  it('are taken from the script and not from what only browsers without scripts see', () => {
    const code =
      '<noscript><img src="https://other.example/p.gif"></noscript><script async src="https://glintpixel.example/pixel.js"></script>';
    expect(names(code).provider).to.equal('Glintpixel');
  });

  it('can be given to a snippet as they are, for all of the corpus', () => {
    for (const { name, code } of CORPUS) {
      const suggested = suggestNames(readCode(code));
      expect(suggested.name, name).to.match(/^[A-Z0-9].{0,118}$/);
      expect(suggested.provider.length, name).to.be.below(120);
      if (suggested.purpose !== '') expect(suggested.purpose, name).to.match(/^[A-Z].*\.$/);
    }
  });
});
