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
          {hoveredBox && <Box {...hoveredBox} width={width} isChosen={false} />}
          {chosen.map((one) => (
            <Box key={one.element} {...one} width={width} isChosen />
          ))}
        </svg>
      )}
    </div>
  );
}

function Box({ box, width, isChosen }: ElementBox & { width: number; isChosen: boolean }) {
  return (
    <rect
      x={box.x}
      y={box.y}
      width={box.width}
      height={box.height}
      rx={width / 400}
      className={isChosen ? 'fill-primary/15 stroke-primary' : 'fill-primary/8 stroke-primary/70'}
      strokeDasharray={isChosen ? undefined : `${width / 160} ${width / 220}`}
      strokeWidth={width / 300}
    />
  );
}
