import type { DefaultTreeAdapterTypes as Tree } from 'parse5';
import type { Load, LoadMode, ExecutionPhase, Range, ResourceKind } from '../types.js';
import { attribute, isScriptType } from './script-type.js';

/** What a tag makes the browser fetch. */
export function loadOfTag(element: Tree.Element, range: Range, noScript: boolean): Load[] {
  const load = (
    address: string | undefined,
    kind: ResourceKind,
    mode: LoadMode = 'none',
    when: ExecutionPhase = 'parse',
  ): Load[] =>
    address === undefined || address.trim() === ''
      ? []
      : [
          {
            ...{ address: address.trim(), kind, by: 'tag', mode, when, noScript, range },
            ...{ confidence: 'certain', ...fetchedAs(element) },
          },
        ];
  switch (element.tagName) {
    case 'script':
      return isScriptType(attribute(element, 'type')) ? script(element, load) : [];
    case 'link':
      return link(element, load);
    case 'img':
      return load(attribute(element, 'src'), 'image');
    case 'iframe':
    case 'frame':
    case 'embed':
      return load(attribute(element, 'src'), 'frame');
    case 'object':
      return load(attribute(element, 'data'), 'frame');
    case 'audio':
    case 'video':
    case 'source':
    case 'track':
      return load(attribute(element, 'src'), 'data');
    default:
      return [];
  }
}

function fetchedAs(element: Tree.Element): Pick<Load, 'fetchedAs'> {
  const has = (name: string): boolean => attribute(element, name) !== undefined;
  if (element.tagName === 'iframe') return has('credentialless') ? { fetchedAs: 'credentialless' } : {};
  return has('crossorigin') ? { fetchedAs: 'cors' } : {};
}

type Make = (
  address: string | undefined,
  kind: ResourceKind,
  mode?: LoadMode,
  when?: ExecutionPhase,
) => Load[];

/** HTML Standard 4.12.1, the table of async, defer and module. */
function script(element: Tree.Element, load: Make): Load[] {
  const isModule = attribute(element, 'type')?.trim().toLowerCase() === 'module';
  const isAsync = attribute(element, 'async') !== undefined;
  const address = attribute(element, 'src');
  if (isModule) return load(address, 'script', 'module', isAsync ? 'async' : 'deferred');
  if (isAsync) return load(address, 'script', 'async', 'async');
  if (attribute(element, 'defer') !== undefined) return load(address, 'script', 'defer', 'deferred');
  return load(address, 'script', 'blocking', 'parse');
}

function link(element: Tree.Element, load: Make): Load[] {
  const rels = (attribute(element, 'rel') ?? '').toLowerCase().split(/\s+/);
  const address = attribute(element, 'href');
  if (rels.includes('stylesheet')) return load(address, 'style');
  const isHint = rels.some((rel) =>
    ['preload', 'modulepreload', 'prefetch', 'preconnect', 'dns-prefetch', 'icon', 'manifest'].includes(rel),
  );
  return isHint ? load(address, 'hint') : [];
}
