import type { RecipeApplication } from '@pragmatica/contract';
import { CliError } from '../../errors.js';
import { RECIPE } from '../../texts/recipe.js';
import { say } from '../../texts/say.js';

type Values = NonNullable<RecipeApplication['targets'][number]['values']>;

/** A value as it is typed: for one site or for all that are named. */
export interface Given {
  readonly site: string | undefined;
  readonly value: Values[number];
}

const TYPED = /^(?:([a-z0-9-]+)\/)?([a-z][a-z0-9_-]*)(?:@(live|staging))?=(.*)$/s;

/** Reads `[SITE/]NAME[@ENVIRONMENT]=VALUE`. @throws CliError */
export function readGiven(typed: string): Given {
  const match = TYPED.exec(typed);
  if (!match) throw new CliError(say(RECIPE.writeValueLike, { typed }));
  const [, site, name, environment, value] = match;
  return {
    site,
    value: {
      name: name!,
      value: value!,
      ...(environment === undefined ? {} : { environment: environment as 'live' | 'staging' }),
    },
  };
}

/** The values for one site; what is given for it goes before what is given for all. */
export function valuesFor(site: string, given: readonly Given[]): Values {
  const chosen = new Map<string, Values[number]>();
  for (const isOwn of [false, true])
    for (const { site: meant, value } of given)
      if (isOwn ? meant === site : meant === undefined)
        chosen.set(`${value.name}@${value.environment ?? ''}`, value);
  return [...chosen.values()];
}
