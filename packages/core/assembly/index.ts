import { Machine } from './machine/state';
import { run as runMachine } from './machine/tokenizer';
import { addNames } from './skeleton';

/** What JavaScript calls: one machine per instance. Numbers that belong together lie in `state` after each call. */

const m = new Machine();
addNames(m.classes);

/** position, hold, number of events, address of the events, question, from, to, and whether the page is in quirks mode */
const state = heap.alloc(8 * 4);

export function stateAddress(): usize {
  return state;
}

export function reset(words: i32, wants: i32, mayUseFastPath: bool, pairs: i32, watch: i32): void {
  m.reset(words, wants, mayUseFastPath, pairs);
  m.watch = watch;
}

/**
 * Forgets what was read and makes room for more bytes.
 * @returns the address to which they are to be written
 */
export function room(length: i32): usize {
  const kept = m.end - m.at;
  if (kept > 0 && m.at > 0) memory.copy(m.window.at, m.window.at + <usize>m.at, <usize>kept);
  m.base += m.at;
  m.at = 0;
  m.end = kept + length;
  m.window.reserve(m.end, kept);
  return m.window.at + <usize>kept;
}

export function run(ended: bool): i32 {
  m.eventCount = 0;
  m.ended = ended;
  const status = runMachine(m);
  store<i32>(state, m.base + m.at);
  store<i32>(state, m.hold(), 4);
  store<i32>(state, m.eventCount, 8);
  store<i32>(state, <i32>m.events.pointer(), 12);
  store<i32>(state, m.query, 16);
  store<i32>(state, m.base + m.tagStart, 20);
  store<i32>(state, m.base + m.tagEnd, 24);
  store<i32>(state, m.quirks ? 1 : 0, 28);
  return status;
}

export function answer(value: i32): void {
  m.answer = value;
}

export function addStep(
  tag: i32,
  before: i32,
  isChild: i32,
  child: i32,
  ofType: i32,
  counter: i32,
  selector: i32,
  wantsEnd: i32,
): void {
  m.selection.addStep(tag, before, isChild, child, ofType, counter, selector, wantsEnd);
}

export function answerTag(word: i32, bits: i32): void {
  m.selection.setTag(word, bits);
}
