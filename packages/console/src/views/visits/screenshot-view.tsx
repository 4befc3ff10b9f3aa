import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { screenshotQuery, type SeenLoad } from '../../api/visits';
import { VISITS } from '../../texts/visits';
import { Loading } from '../../ui/states';
import { ownerName } from './owner-name';

interface ScreenshotProps {
  readonly site: string;
  readonly round: number;
  readonly visit: number;
  readonly load: SeenLoad;
  readonly names: ReadonlyMap<string, string>;
  readonly colours: ReadonlyMap<string, string>;
}

/** What the visitor saw, with the snippets' things drawn over it. */
export function ScreenshotView({ load, ...of }: ScreenshotProps) {
  return load.screenshot === null ? (
    <p className="text-sm text-muted">{VISITS.noScreenshot}</p>
  ) : (
    <Picture {...of} load={load} screenshot={load.screenshot} />
  );
}

function Picture({
  site,
  round,
  visit,
  load,
  screenshot,
  names,
  colours,
}: ScreenshotProps & { screenshot: number }) {
  const picture = useQuery(screenshotQuery(site, round, visit, screenshot));
  const { width, height } = load.window;
  const [hasBoxes, setBoxes] = useState(true);
  if (!picture.data) return <Loading lines={3} />;
  const shown = load.elements.filter(
    ({ owner, isVisible, box }) => typeof owner.snippet === 'string' && isVisible && box.width > 8,
  );
  return (
    <div className="space-y-2">
      <div
        className="relative mx-auto overflow-hidden rounded-md border border-line"
        style={{ maxWidth: width }}
      >
        <img src={picture.data} alt={VISITS.screenshot} className="block w-full" />
        {hasBoxes && (
          <svg viewBox={`0 0 ${width} ${height}`} className="absolute inset-0 size-full" aria-hidden>
            {shown.map(({ selector, box, owner }) => {
              const colour = colours.get(owner.snippet ?? '') ?? '#888';
              const size = width / 45;
              return (
                <g key={selector}>
                  <rect
                    x={box.x}
                    y={box.y}
                    width={box.width}
                    height={box.height}
                    fill="none"
                    stroke={colour}
                    strokeWidth={width / 320}
                  />
                  <text
                    x={box.x + box.width / 2}
                    y={Math.max(size, box.y - size / 3)}
                    textAnchor="middle"
                    fontSize={size}
                    fontWeight={700}
                    fill={colour}
                    stroke="#fff"
                    strokeWidth={size / 5}
                    paintOrder="stroke"
                  >
                    {ownerName(owner, names)}
                  </text>
                </g>
              );
            })}
          </svg>
        )}
      </div>
      <label className="flex items-center gap-2 text-[13px] text-muted">
        <input type="checkbox" checked={hasBoxes} onChange={(event) => setBoxes(event.target.checked)} />
        {VISITS.boxes}
      </label>
    </div>
  );
}
