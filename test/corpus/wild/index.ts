import type { CorpusSnippet } from '../corpus.js';
import { HEAD_MATTER } from './head-matter.js';
import { OWN } from './own.js';
import { SEEN } from './seen.js';
import { SIGNALS } from './signals.js';
import { BY_STYLE } from './styles.js';

/** Code in the styles of the wild in which nothing is wrong. */
export const WILD: readonly CorpusSnippet[] = [...BY_STYLE, ...HEAD_MATTER, ...SEEN, ...SIGNALS, ...OWN];
