import type { MouseEvent } from 'react';
import classes from './room.module.css';

/** A place of a picture, to the right and down in its own units. */
export type Place = [number, number];

interface MarkedProps {
  name: string;
  src: string;
  /** In the units that clicks are told in. */
  size: Place;
  marks: Place[];
  dots?: { at: Place; fill: string }[];
  /** Opposite corners of a piece of it. */
  patch?: [Place, Place];
  onClick: (at: Place) => void;
}

/** A picture with numbered places on it. */
export function Marked({ name, src, size: [wide, high], marks, dots = [], patch, onClick }: MarkedProps) {
  const click = (e: MouseEvent<SVGSVGElement>) => {
    const m = e.currentTarget.getScreenCTM();
    if (m) {
      const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(m.inverse());
      onClick([Math.round(p.x * 100) / 100, Math.round(p.y * 100) / 100]);
    }
  };
  const r = Math.max(wide, high) / 60;
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: places of a picture are pointed at
    <svg viewBox={`0 0 ${wide} ${high}`} role="img" aria-label={name} className={classes.marked} onClick={click}>
      <image href={src} width={wide} height={high} preserveAspectRatio="none" />
      {marks.map(([x, y], i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a place is its number
        <g key={i} className={classes.mark}>
          <circle cx={x} cy={y} r={r} strokeWidth={r / 5} />
          <text x={x} y={y + r * 0.4} fontSize={r * 1.2} textAnchor="middle">
            {i + 1}
          </text>
        </g>
      ))}
      {dots.map(({ at: [x, y], fill }) => (
        <circle key={fill} cx={x} cy={y} r={r * 0.7} fill={fill} stroke="var(--ground)" strokeWidth={r / 5} />
      ))}
      {patch && (
        <rect
          className={classes.patch}
          x={Math.min(patch[0][0], patch[1][0])}
          y={Math.min(patch[0][1], patch[1][1])}
          width={Math.abs(patch[0][0] - patch[1][0])}
          height={Math.abs(patch[0][1] - patch[1][1])}
          strokeWidth={r / 5}
        />
      )}
    </svg>
  );
}
