import type { WeightResource } from '@pragmatica/contract';

export type WeighedPage = WeightResource['pages'][number];

/** One piece of a bar: the page itself, a snippet, or what several snippets bring together. */
export interface Piece {
  readonly kind: 'page' | 'snippet' | 'together';
  readonly snippet?: string;
  readonly name: string;
  readonly bytes: number;
}

/**
 * A page's bytes as pieces that lie behind each other. What a snippet alone adds may overlap with what another one adds; the
 * bar is as long as the page with all of them.
 */
export function piecesOf({ bare, full, snippets, sharedBytes }: WeighedPage): readonly Piece[] {
  const adding = snippets.filter(({ adds }) => adds.bytes > 0);
  const alone = adding.reduce((sum, { adds }) => sum + adds.bytes, 0);
  const added = Math.max(0, full.bytes - bare.bytes);
  const scale = alone > added && alone > 0 ? added / alone : 1;
  return [
    { kind: 'page', name: '', bytes: bare.bytes },
    ...adding.map(({ snippet, name, adds }): Piece => ({
      kind: 'snippet',
      snippet,
      name,
      bytes: adds.bytes * scale,
    })),
    ...(sharedBytes > 0 ? [{ kind: 'together', name: '', bytes: sharedBytes } as const] : []),
  ];
}
