import { DEVICE_WINDOWS, deviceName, type Rectangle } from '@pragmatica/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { screenshotQuery, visitQuery, type RoundDetail } from '../../api/visits';
import { say } from '../../texts/say';
import { VISITS } from '../../texts/visits';
import { OverlapDrawing } from './overlap-drawing';

type SeenAt = RoundDetail['summary']['overlaps'][number]['at'][number];

interface OverlapPictureProps {
  readonly site: string;
  readonly round: number;
  /** Where it was seen first. */
  readonly at: SeenAt;
  readonly upper: { readonly name: string; readonly box: Rectangle };
  /** One thing, or several. */
  readonly lower: readonly { readonly name: string; readonly box: Rectangle }[];
  readonly shared?: Rectangle | undefined;
}

/** What meets, over the picture that the visit has taken; until that is there, and where there is none, in an empty window. */
export function OverlapPicture({ site, round, at, upper, lower, shared }: OverlapPictureProps) {
  const visit = useQuery(visitQuery(site, round, at.visit));
  // Page loads that reached nothing were not judged, and do not count.
  const load = visit.data?.loads.filter(({ status }) => status !== null)[at.load];
  const number = load?.screenshot ?? undefined;
  const picture = useQuery({
    ...screenshotQuery(site, round, at.visit, number ?? 0),
    enabled: number !== undefined,
  });
  const { path, device } = at;
  return (
    <Link to={`/sites/${site}/check/browser/${round}/${at.visit}`} className="shrink-0 self-start">
      <OverlapDrawing
        window={load?.window ?? DEVICE_WINDOWS[device]}
        picture={picture.data}
        upper={upper.box}
        lower={lower.map(({ box }) => box)}
        shared={shared}
        label={say(VISITS.meetingPicture, {
          upper: upper.name,
          lower: lower.map(({ name }) => name),
          path,
          device: deviceName(device),
        })}
      />
    </Link>
  );
}
