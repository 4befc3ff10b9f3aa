import type { RoundDetail } from '../../api/visits';
import { say } from '../../texts/say';
import { VISITS } from '../../texts/visits';
import { OverlapPicture } from './overlap-picture';
import { Places } from './problem-list';
import { Section } from './section';

type Summary = RoundDetail['summary'];
type Source = Summary['doubled'][number]['sources'][number];

/** What meets on the screen, what cannot be clicked, and what happens twice. */
export function ScreenSection({ site, round, summary }: { site: string; round: number; summary: Summary }) {
  const { overlaps, covered, doubled } = summary;
  if (overlaps.length + covered.length + doubled.length === 0) return null;
  return (
    <Section title={VISITS.screen}>
      <ul className="space-y-4 text-sm">
        {overlaps.map(({ upper, lower, shared, advice, at }) => (
          <li key={`${upper.selector} ${lower.selector}`} className="flex flex-wrap gap-4">
            {at[0] && <OverlapPicture {...{ site, round, upper, shared }} lower={[lower]} at={at[0]} />}
            <div className="min-w-60 flex-1 space-y-1">
              <p className="font-medium">
                {say(VISITS.meets, {
                  upper: upper.name,
                  lower: lower.name,
                  width: Math.round(shared.width),
                  height: Math.round(shared.height),
                })}
              </p>
              <p>{advice}</p>
              <Places site={site} round={round} at={at} />
            </div>
          </li>
        ))}
        {byCover(covered).map(([{ by, at: seen }, controls]) => (
          <li key={by.selector} className="flex flex-wrap gap-4">
            {seen[0] && (
              <OverlapPicture
                {...{ site, round }}
                upper={by}
                lower={controls.map(({ control }) => control)}
                at={seen[0]}
              />
            )}
            <ul className="min-w-60 flex-1 space-y-2">
              {controls.map(({ control, at }) => (
                <li key={control.selector}>
                  <p className="font-medium">{say(VISITS.covers, { by: by.name, control: control.name })}</p>
                  <Places site={site} round={round} at={at} />
                </li>
              ))}
            </ul>
          </li>
        ))}
        {doubled.map(({ kind, url, count, sources, at }) => (
          <li key={`${kind} ${url}`} className="space-y-1">
            <p className="font-medium">
              {kind === 'file'
                ? say(VISITS.twiceFile, { file: fileOf(url), count, ...namesOf(sources) })
                : say(VISITS.twiceReport, { host: new URL(url).hostname, count, ...namesOf(sources) })}
            </p>
            <Places site={site} round={round} at={at} />
          </li>
        ))}
      </ul>
    </Section>
  );
}

/** Controls by what lies on them; the first of each tells where that was seen. */
function byCover(
  covered: Summary['covered'],
): readonly (readonly [Summary['covered'][number], Summary['covered']])[] {
  const groups = new Map<string, Summary['covered']>();
  for (const one of covered) {
    const group = groups.get(one.by.selector);
    if (group) group.push(one);
    else groups.set(one.by.selector, [one]);
  }
  return [...groups.values()].map((controls) => [controls[0]!, controls]);
}

function namesOf(sources: readonly Source[]) {
  return { known: sources.length, names: sources.map(sourceWords) };
}

function sourceWords({ snippet, name, via }: Source): string {
  const who = snippet === null ? VISITS.itself : `“${name}”`;
  return via.length > 1 ? say(VISITS.through, { name: who, file: fileOf(via[0]!) }) : who;
}

/** The last part of an address. */
export function fileOf(url: string): string {
  return URL.canParse(url)
    ? (new URL(url).pathname.split('/').filter(Boolean).at(-1) ?? new URL(url).hostname)
    : url;
}
