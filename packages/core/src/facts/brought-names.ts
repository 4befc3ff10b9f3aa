import { memoizeByObject } from '../memoize/by-object.js';
import { hostOf } from './addresses.js';
import { HOLE } from './script/values.js';
import { providerWords } from './settings-words.js';
import type { Confidence, Definition, ExecutionPhase, Load } from './types.js';

/** What files and folders are called whatever is in them. */
const GENERAL = new Set(
  (
    'js mjs dist lib libs assets static scripts script main index app apps loader load widget widgets core api sdk ' +
    'common vendor vendors bundle bundles runtime init plugin plugins theme themes files file public build cdn npm ' +
    'latest tag tags src min prod production release modules module web client embed start boot shared site default ' +
    'javascript javascripts package packages code settings config events event analytics tracking pixel chat forms'
  ).split(' '),
);
/** What is added to a file's name to tell one of its builds. */
const BUILD =
  /[.-](?:min|umd|esm|cjs|iife|bundle|bundled|all|full|slim|lite|prod|production|dev|development|global|browser|pkgd|pack|packed|latest|async|core)$/;
const VERSION = /[.@_-]v?\d+(?:\.(?:\d+|x))*(?:-[\w.]+)?$/;
/** What a name has in addition to its library's. */
const ADDED = /(?:js|api|sdk|lib|client|widget)$/;
const MIN_LENGTH = 4;
/** A path has so many steps at most that are looked at. */
const MAX_STEPS = 12;

/** A name as its library is called: `SlidewellJS`, `_slidewell` and `slide-well` are all `slidewell`. */
export function plainName(name: string): string {
  const plain = name.toLowerCase().replace(/[^a-z0-9]/g, '');
  const bare = plain.replace(ADDED, '');
  return bare.length >= MIN_LENGTH ? bare : plain;
}

/**
 * Plain names that a script file is called after: by itself, by its package, and by its provider. Files mostly bring
 * what they are called; it is a guess, and where a file was read nobody needs it.
 */
export const broughtNames = memoizeByObject(({ kind, noScript, address }: Load): readonly string[] => {
  if (kind !== 'script' || noScript || address.includes(HOLE)) return [];
  const path = address.split(/[?#]/, 1)[0]!.replace(/^(?:https?:)?\/\/[^/]*/i, '');
  const steps = path.split('/').filter(Boolean).slice(-MAX_STEPS);
  const file = steps.pop() ?? '';
  const names = [
    ...(/\.m?js$/i.test(file) || !file.includes('.') ? fileNames(file) : []),
    // A package, and a folder that holds versions.
    ...steps.flatMap((step, at) =>
      step.includes('@') || /^v?\d+(\.\d+)*$/.test(steps[at + 1] ?? '') ? [libraryName(step)] : [],
    ),
    ...(hostOf(address) === undefined ? [] : providerWords(address)),
  ];
  return [...new Set(names.filter((name) => !GENERAL.has(name)).map(plainName))].filter(
    (name) => name.length >= MIN_LENGTH && !GENERAL.has(name) && !/^[\da-f]+$/.test(name),
  );
});

/** `quayquery.slidewell-2.1.min.js` is called `slidewell`, and by all of it. */
function fileNames(file: string): string[] {
  const whole = libraryName(file.replace(/\.m?js$/i, ''));
  const last = whole.split('.').at(-1)!;
  return [...new Set([whole, last])];
}

function libraryName(step: string): string {
  let name = step.toLowerCase().replace(/^@/, '');
  for (let before = ''; before !== name;) {
    before = name;
    name = name.replace(BUILD, '').replace(VERSION, '');
  }
  return name;
}

/** That a file brings a name. */
export function broughtDefinition(load: Load, name: string, confidence: Confidence): Definition {
  return {
    name,
    when: whenFileRuns(load),
    what: 'value',
    isStub: false,
    from: load.address,
    range: load.range,
    confidence,
  };
}

/** When a file runs that is loaded so. */
export function whenFileRuns({ mode, when }: Load): ExecutionPhase {
  if (when === 'later') return 'later';
  if (mode === 'async') return 'async';
  return mode === 'defer' || mode === 'module' ? 'deferred' : when;
}
