import { DEVICE_WINDOWS, type Device, type Rectangle } from '@pragmatica/core';

interface OverlapProps {
  readonly upper: { readonly name: string; readonly box: Rectangle };
  readonly lower: { readonly name: string; readonly box: Rectangle };
  readonly shared: Rectangle;
  readonly device: Device;
}

const WIDTH = 200;

/** The window, and the two things in it that meet. */
export function OverlapDrawing({ upper, lower, shared, device }: OverlapProps) {
  const { width, height } = DEVICE_WINDOWS[device];
  const shownWidth = device === 'desktop' ? WIDTH : (WIDTH * width) / 1_100;
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      style={{ width: shownWidth, height: (shownWidth * height) / width }}
      className="shrink-0 rounded-md border border-line-strong bg-raised"
      aria-hidden
    >
      <Box box={lower.box} className="fill-primary-soft stroke-primary" />
      <Box box={upper.box} className="fill-signal-soft stroke-signal" />
      <Box box={shared} className="fill-danger/60 stroke-danger" />
    </svg>
  );
}

function Box({ box, className }: { box: Rectangle; className: string }) {
  return (
    <rect x={box.x} y={box.y} width={box.width} height={box.height} className={className} strokeWidth={4} />
  );
}
