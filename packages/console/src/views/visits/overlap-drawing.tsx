import type { Rectangle } from '@pragmatica/core';

interface OverlapDrawingProps {
  /** Size of the window, in the page's own pixels. */
  readonly window: { readonly width: number; readonly height: number };
  /** What the visitor saw, as an address; left out where there is no picture. */
  readonly picture?: string | undefined;
  readonly upper: Rectangle;
  /** What lies below: one thing, or several. */
  readonly lower: readonly Rectangle[];
  /** What both have. */
  readonly shared?: Rectangle | undefined;
  /** What there is to see, for whoever does not. */
  readonly label: string;
}

/** Of a desktop's window; narrower ones get as much less. */
const WIDTH = 320;
const DESKTOP = 1_280;
const LEAST_WIDTH = 150;

/** Things that meet, drawn over what the visitor saw. */
export function OverlapDrawing({ window, picture, upper, lower, shared, label }: OverlapDrawingProps) {
  const { width, height } = window;
  const shownWidth = Math.max(LEAST_WIDTH, Math.min(WIDTH, (WIDTH * width) / DESKTOP));
  const line = width / 160;
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      style={{ width: shownWidth, height: (shownWidth * height) / width }}
      className="max-w-full shrink-0 rounded-md border border-line-strong bg-raised"
      role="img"
      aria-label={label}
    >
      {picture !== undefined && (
        <image href={picture} width={width} height={height} preserveAspectRatio="none" />
      )}
      {lower.map((box, index) => (
        <Box key={index} box={box} line={line} className="fill-primary/15 stroke-primary" />
      ))}
      <Box box={upper} line={line} className="fill-signal/15 stroke-signal" />
      {shared && <Box box={shared} line={line} className="fill-danger/60 stroke-danger" />}
    </svg>
  );
}

function Box({ box, line, className }: { box: Rectangle; line: number; className: string }) {
  return (
    <rect
      x={box.x}
      y={box.y}
      width={box.width}
      height={box.height}
      className={className}
      strokeWidth={line}
    />
  );
}
