import { DELIVER_TEXTS } from '../../texts/deliver.js';
import { say } from '../../texts/say.js';
import { BOX_KINDS, type BoxKind } from './box.js';

/** A block as whoever has the access gets it. */
export interface SheetBlock {
  readonly kind: BoxKind;
  /** What the box is called there. */
  readonly name: string;
  readonly page: string | null;
  readonly text: string;
  readonly state: 'open' | 'outdated' | 'done';
}

/** What somebody else has to do, as Markdown (CommonMark): which box, what to remove, what to paste, how to see that it is there. */
export function handoverSheet(
  site: string,
  release: number,
  blocks: readonly SheetBlock[],
  obsolete: readonly Pick<SheetBlock, 'kind' | 'name' | 'page'>[],
): string {
  const t = DELIVER_TEXTS.sheet;
  const where = ({ kind, page }: Pick<SheetBlock, 'kind' | 'page'>): string =>
    page === null ? BOX_KINDS[kind].words : say(t.ofPage, { box: BOX_KINDS[kind].words, page });
  const sections = blocks.map((block, index) =>
    [
      `## ${index + 1}. ${inLine(block.name)}`,
      '',
      `- [${block.state === 'done' ? 'x' : ' '}] ${say(t.step, { where: inLine(where(block)), state: block.state })}`,
      '',
      fenced(block.text),
    ].join('\n'),
  );
  const removals =
    obsolete.length === 0
      ? []
      : [
          [
            `## ${t.removeTitle}`,
            '',
            ...obsolete.map(
              (one) => `- [ ] ${say(t.remove, { name: inLine(one.name), where: inLine(where(one)) })}`,
            ),
          ].join('\n'),
        ];
  return `${[`# ${say(t.title, { site: inLine(site), release })}`, t.intro, ...sections, ...removals, t.end].join('\n\n')}\n`;
}

/** A fence longer than any run of backticks within (CommonMark, 4.5). */
function fenced(text: string): string {
  const longest = Math.max(0, ...[...text.matchAll(/`+/g)].map(([run]) => run.length));
  const fence = '`'.repeat(Math.max(3, longest + 1));
  return `${fence}html\n${text}\n${fence}`;
}

/** Text that means nothing else in Markdown (CommonMark, 2.4). */
function inLine(text: string): string {
  return text.replace(/[\\`*_[\]<>#|]/g, '\\$&').replace(/\s+/g, ' ');
}
