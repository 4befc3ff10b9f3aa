import { useQuery } from '@tanstack/react-query';
import { useState, type PointerEvent } from 'react';
import { screenshotQuery } from '../../api/visits';
import { PLACE } from '../../texts/place';
import { say } from '../../texts/say';
import { Loading } from '../../ui/states';
import { boxesAt, type ElementBox } from './boxes';
import type { PagePicture } from './use-picture';

interface PlacePictureProps {
  readonly site: string;
  readonly path: string;
  readonly picture: PagePicture;
  /** Drawn in full. */
  readonly chosen: readonly ElementBox[];
  /** The elements under where somebody clicked, the smallest first; left out where nothing is to be clicked. */
  readonly onPick?: (elements: readonly ElementBox[]) => void;
}

/** A picture of a page on which its elements can be clicked. */
export function PlacePicture({ site, path, picture, chosen, onPick }: PlacePictureProps) {
  const { round, visit, screenshot, width, elements } = picture;
  const image = useQuery(screenshotQuery(site, round, visit, screenshot));
  const [hovered, setHovered] = useState<ElementBox>();
  const [height, setHeight] = useState(0);
  const under = (event: PointerEvent<HTMLElement>): readonly ElementBox[] => {
    const frame = event.currentTarget.getBoundingClientRect();
    const scale = width / frame.width;
    return boxesAt(elements, {
      x: (event.clientX - frame.left) * scale,
      y: (event.clientY - frame.top) * scale,
    });
  };
  if (!image.data) return <Loading lines={4} />;
  const hoveredBox = onPick && hovered && !chosen.includes(hovered) ? hovered : undefined;
  return (
    <div
      className={onPick ? 'relative cursor-crosshair' : 'relative'}
      data-testid="page-picture"
      onPointerMove={onPick && ((event) => setHovered(under(event)[0]))}
      onPointerLeave={() => setHovered(undefined)}
      onPointerUp={onPick && ((event) => onPick(under(event)))}
    >
      <img
        src={image.data}
        alt={say(PLACE.picture, { path })}
        className="block w-full select-none"
        draggable={false}
        onLoad={({ currentTarget: { naturalWidth, naturalHeight } }) =>
          setHeight((naturalHeight * width) / naturalWidth)
        }
      />
      {height > 0 && (
        <svg
          viewBox={`0 0 ${width} ${height}`}
          className="pointer-events-none absolute inset-0 size-full"
          aria-hidden
        >
          {hoveredBox && <Box {...hoveredBox} isChosen={false} />}
          {chosen.map((one) => (
            <Box key={one.element} {...one} isChosen />
          ))}
        </svg>
      )}
    </div>
  );
}

/** Pages are no lighter in the dark, so that these colours are the same there. */
function Box({ box, isChosen }: ElementBox & { isChosen: boolean }) {
  const { x, y, width, height } = box;
  return (
    <g>
      {isChosen && (
        <rect
          {...{ x, y, width, height }}
          fill="none"
          stroke="#fff"
          strokeWidth={5}
          vectorEffect="non-scaling-stroke"
        />
      )}
      <rect
        {...{ x, y, width, height }}
        fill={isChosen ? '#e8590c2e' : '#e8590c1a'}
        stroke="#d9480f"
        strokeWidth={isChosen ? 2.5 : 1.5}
        strokeDasharray={isChosen ? undefined : '5 4'}
        vectorEffect="non-scaling-stroke"
      />
    </g>
  );
}
