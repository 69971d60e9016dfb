import type { Shown } from './picture';

export type Point = [number, number];

interface PhotographProps {
  shown: Shown;
  label: string;
  points: Point[];
  /** How many of the points are corners of the card; the others are of what is looked at. */
  corners: number;
  onPoint: (at: Point) => void;
}

/** A photograph on which places are pointed at, in its own pixels. */
export function Photograph({ shown, label, points, corners, onPoint }: PhotographProps) {
  const [a, b] = points.slice(corners);
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: places on a photograph are pointed at
    <svg
      viewBox={`0 0 ${shown.width} ${shown.height}`}
      role="img"
      aria-label={label}
      onClick={(e) => {
        // The picture may lie smaller inside its frame.
        const at = new DOMPoint(e.clientX, e.clientY).matrixTransform(e.currentTarget.getScreenCTM()?.inverse());
        onPoint([at.x, at.y]);
      }}
    >
      <image href={shown.url} width={shown.width} height={shown.height} />
      {points.map(([x, y], i) => (
        <circle
          key={`${x} ${y}`}
          cx={x}
          cy={y}
          r={shown.width / (i < corners ? 140 : 100)}
          fill="none"
          stroke={i < corners ? 'var(--light)' : 'var(--edge)'}
          strokeWidth={shown.width / 400}
        />
      ))}
      {a && b && (
        <rect
          x={Math.min(a[0], b[0])}
          y={Math.min(a[1], b[1])}
          width={Math.abs(a[0] - b[0])}
          height={Math.abs(a[1] - b[1])}
          fill="none"
          stroke="var(--edge)"
          strokeWidth={shown.width / 400}
        />
      )}
    </svg>
  );
}

/** The corners of the neutral card, in the order in which they are pointed at. */
export const cardCorners = [
  'upper left corner of the card',
  'upper right corner',
  'lower right corner',
  'lower left corner',
];
