import type { TrailCheckEvent } from '@pragmatica/contract';
import { ChainReader, type ChainHead } from '@pragmatica/core';
import type { Store } from '../storage/store.js';
import { chainHead, readChain } from '../storage/trail-chain.js';
import { TRAIL_TEXTS } from '../texts/trail.js';

const DAY_MS = 86_400_000;
/** More faults than these are counted, not told. */
const MAX_TIMES = 50;

export interface TrailCheck {
  /** So many days entries are kept; 0 for ever. */
  readonly keptDays: number;
  /** A head that somebody has kept elsewhere. */
  readonly expected?: ChainHead | undefined;
}

/** A head as it is written in one word: `number:hash`. */
export function headFromText(text: string | undefined): ChainHead | undefined {
  if (text === undefined) return undefined;
  const [number = '', hash = ''] = text.split(':');
  return { number: Number(number), hash };
}

/** Reads the whole chain with its entries, a few hundred at a time, and says whether anybody has changed it. */
export async function* verifyTrail(
  store: Store,
  { keptDays, expected }: TrailCheck,
): AsyncGenerator<TrailCheckEvent> {
  const { number: total } = await chainHead(store);
  const keptSince = keptDays > 0 ? new Date(Date.now() - keptDays * DAY_MS).toISOString() : undefined;
  const reader = new ChainReader(keptSince, expected);
  const times = new Map<number, string>();
  let last = 0;
  for (;;) {
    const rows = await readChain(store.fork(), last);
    for (const { link, entry } of rows) {
      const before = reader.faults;
      reader.read(link, entry);
      if (reader.faults > before && times.size < MAX_TIMES) times.set(link.number, link.at);
      last = link.number;
    }
    if (rows.length === 0) break;
    yield { type: 'progress', checked: last, total: Math.max(total, last) };
  }
  const { problems, ...found } = reader.finish();
  yield {
    type: 'done',
    isWhole: found.faults === 0,
    ...found,
    problems: problems.map(({ number, fault }) => ({
      number,
      message: TRAIL_TEXTS.faults[fault],
      at: times.get(number) ?? null,
    })),
  };
}
