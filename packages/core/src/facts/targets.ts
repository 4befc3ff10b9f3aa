import type { SeenCall } from './script/record.js';
import type { Range, Target } from './types.js';

/** What loaders call the element that they fill, in attributes and in settings. */
const TARGET =
  /^(?:data-)?(?:target|container|element|el|mount|mount-?point|root|root-?element|placeholder|into|render-?to|append-?to|selector|target-?id|container-?id|element-?id|parent)$/i;
/** Calls that are given the element first. */
const FILLS =
  /^(?:mount|render|embed|attach|inject|insert|show|draw|open|load|init|create|start)(?:in|into|to|at)?$/i;

/** The id of an element that a loader is told to fill in an attribute; undefined where it is told none. */
export function targetOfAttribute(name: string, value: string): string | undefined {
  return TARGET.test(name) ? idOf(value, /id$/i.test(name)) : undefined;
}

/** Elements that a call is told to fill: `Slotwell.mount('#calendar')`, `init({ container: '#calendar' })`. */
export function targetsOf({ name, args, ranges, range }: SeenCall): Target[] {
  const targets: Target[] = [];
  const add = (id: string | undefined, at: Range): void => {
    if (id !== undefined) targets.push({ id, range: at, confidence: 'likely' });
  };
  const last = name.split('.').at(-1)!;
  const [first] = args;
  if (first?.kind === 'text' && name.includes('.') && FILLS.test(last))
    add(idOf(first.text, false), ranges[0] ?? range);
  for (const value of args)
    if (value.kind === 'object')
      for (const [key, property] of value.properties)
        if (property.kind === 'text' && TARGET.test(key)) add(idOf(property.text, /id$/i.test(key)), range);
  return targets;
}

/** @param isPlain - the id alone is meant, without a selector's mark */
function idOf(value: string, isPlain: boolean): string | undefined {
  const match = isPlain
    ? /^#?([A-Za-z][\w-]*)$/.exec(value.trim())
    : /^#([A-Za-z][\w-]*)$/.exec(value.trim());
  return match?.[1];
}
