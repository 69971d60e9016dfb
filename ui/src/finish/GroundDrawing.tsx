import type { BuildState } from '../api/client';
import { pictureUrl } from '../plate/usePlate';
import classes from './BaseRoom.module.css';
import type { GroundRoom } from './useGround';

interface DrawingProps {
  data: BuildState;
  ground: GroundRoom;
}

type Point = readonly number[];

// Seen from above the front is to the left: what runs forward on the board runs left in the drawing.
const x = (p: Point) => -(p[0] ?? 0);
const y = (p: Point) => p[1] ?? 0;
const points = (list: readonly Point[]) => list.map((p) => `${x(p)},${y(p)}`).join(' ');
const middle = (list: readonly Point[]) => {
  const sum = (of: (p: Point) => number) => list.reduce((s, p) => s + of(p), 0) / Math.max(list.length, 1);
  return { x: sum(x), y: sum(y) };
};

/** The board from above, with the finished vehicle on it. */
export function FromAbove({ data, ground }: DrawingProps) {
  const { plan } = data;
  const { laid, wants } = ground;
  const view = plan.views.find((v) => v.side === 'top');
  const at = middle(laid.whole);
  const far = Math.max(laid.longMm / 2 + laid.beyondMm, laid.longMm / 2) + 8;
  const high = laid.wideMm / 2 + 12;
  const size = laid.longMm / 30;
  return (
    <svg
      className={classes.drawing}
      viewBox={`${-far} ${-high} ${2 * far} ${2 * high}`}
      role="img"
      aria-label={`The base from above, ${laid.longMm.toFixed(0)} by ${laid.wideMm.toFixed(0)} mm`}
    >
      <title>The base from above</title>
      <rect
        className={classes.board}
        x={-laid.longMm / 2}
        y={-laid.wideMm / 2}
        width={laid.longMm}
        height={laid.wideMm}
        fill={ground.hex || 'var(--raised)'}
      />
      {view && (
        <image
          href={pictureUrl(plan.build, plan.steps[plan.steps.length - 1]?.look ?? plan.bare, 'top', 4)}
          x={at.x - view.width / 2}
          y={at.y - view.height / 2}
          width={view.width}
          height={view.height}
          transform={`rotate(${-(wants.turn ?? 0)} ${at.x} ${at.y})`}
          preserveAspectRatio="none"
        />
      )}
      {laid.prints.map((p) => (
        <polygon key={points(p)} className={classes.print} points={points(p)} />
      ))}
      {laid.screws.map((s) => (
        <g key={s.alongMm} className={classes.screw} transform={`translate(${x(s.at)} ${y(s.at)})`}>
          <circle r={Math.max(wants.screw / 2, 1)} />
          <path d="M-5 0H5M0-5V5" />
        </g>
      ))}
      <text x={0} y={laid.wideMm / 2 + size + 3} fontSize={size} textAnchor="middle">
        {laid.longMm.toFixed(1)} mm
      </text>
      <text
        x={laid.longMm / 2 + 3}
        y={0}
        fontSize={size}
        textAnchor="middle"
        transform={`rotate(90 ${laid.longMm / 2 + 3} 0)`}
      >
        {laid.wideMm.toFixed(1)} mm
      </text>
    </svg>
  );
}

/** The board from its side, cut along a track: how the vehicle stands in the ground. */
export function FromTheSide({ data, ground }: DrawingProps) {
  const { plan } = data;
  const { laid, wants } = ground;
  const view = plan.views.find((v) => v.side === 'left');
  const at = middle(laid.whole);
  const half = laid.longMm / 2;
  const high = laid.footMm + (view?.height ?? 0);
  const far = half + laid.beyondMm + 8;
  const top = -high - 3;
  const line = laid.profile.map((p) => `${x(p)},${-y(p)}`).join(' ');
  const size = laid.longMm / 30;
  return (
    <svg
      className={classes.side}
      viewBox={`${-far} ${top} ${2 * far} ${wants.board + 8 - top}`}
      role="img"
      aria-label={`The base from its side: the vehicle sinks in by ${laid.imprintMm.toFixed(1)} mm`}
    >
      <title>The base from its side</title>
      <polygon
        className={classes.earth}
        points={`${half},0 ${line} ${-half},0`}
        style={ground.hex ? { fill: ground.hex } : undefined}
      />
      <rect className={classes.wood} x={-half} y={0} width={laid.longMm} height={wants.board} />
      {view && (wants.turn ?? 0) === 0 && (
        <image
          href={pictureUrl(plan.build, plan.steps[plan.steps.length - 1]?.look ?? plan.bare, 'left', 4)}
          x={at.x - view.width / 2}
          y={-high}
          width={view.width}
          height={view.height}
          preserveAspectRatio="none"
        />
      )}
      {laid.screws.map((s) => (
        <path
          key={s.alongMm}
          className={classes.screw}
          d={`M${-s.alongMm} ${wants.board}V${wants.board - s.leastMm}M${-s.alongMm - 3} ${wants.board}h6`}
        />
      ))}
      <text x={-half} y={wants.board + 2 + size} fontSize={size}>
        board {wants.board} mm, ground {laid.lowestMm.toFixed(1)}
        {laid.highestMm > laid.lowestMm + 0.05 ? ` to ${laid.highestMm.toFixed(1)}` : ''} mm
      </text>
    </svg>
  );
}
