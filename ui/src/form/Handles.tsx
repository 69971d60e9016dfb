import type { PointerEvent } from 'react';
import type { BuildState, Grip, View } from '../api/client';
import classes from '../plate/Plate.module.css';
import { fromView, onView, type Point, snapped } from './project';
import type { FormWork } from './useFormWork';

const place = (e: PointerEvent<SVGElement>): Point | undefined => {
  const m = (e.currentTarget.ownerSVGElement && (e.currentTarget.parentNode as SVGGElement))?.getScreenCTM();
  if (!m) {
    return undefined;
  }
  const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(m.inverse());
  return [p.x, p.y];
};

const path = (points: Point[], closed: boolean) =>
  `${points.map(([x, y], i) => `${i ? 'L' : 'M'}${x} ${y}`).join('')}${closed ? 'Z' : ''}`;

/** A point that is dragged: told where it is while it moves, and once when it rests. */
function Handle({
  at,
  r,
  name,
  on,
  onMove,
  onRest,
}: {
  at: Point;
  r: number;
  name: string;
  on?: boolean;
  onMove: (to: Point) => void;
  onRest: () => void;
}) {
  return (
    // biome-ignore lint/a11y/useSemanticElements: a point of a drawing cannot be a button element
    <circle
      data-handle
      data-on={on || undefined}
      className={classes.handle}
      cx={at[0]}
      cy={at[1]}
      r={r}
      strokeWidth={r / 3}
      role="button"
      tabIndex={-1}
      aria-label={name}
      onClick={(e) => e.stopPropagation()}
      onPointerDown={(e) => {
        e.stopPropagation();
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={(e) => {
        const to = e.currentTarget.hasPointerCapture(e.pointerId) && place(e);
        if (to) {
          onMove(to);
        }
      }}
      onPointerUp={(e) => {
        e.currentTarget.releasePointerCapture(e.pointerId);
        onRest();
      }}
    />
  );
}

/** The points of the part that is shaped, over a view. Where a dragged point comes to lie is
 * the core's to say. */
export function PartHandles({
  view,
  data,
  work,
  grips,
}: {
  view: View;
  data: BuildState;
  work: FormWork;
  grips?: Grip[];
}) {
  const grip = grips?.find((g) => g.side === view.side);
  const part = work.part;
  if (!grip || !part) {
    return null;
  }
  const ghost = work.ghost?.part === part && work.ghost.side === view.side ? work.ghost : undefined;
  const points = (ghost?.points ?? grip.points) as Point[];
  const unit = data.plan.sheet.width;
  const joined = points.slice(0, points.length - grip.loose);
  const { middle } = grip;
  const all =
    middle === undefined ? joined : [...joined, ...joined.map(([x, y]): Point => [x, 2 * middle - y]).reverse()];
  const ring = grip.closed || middle !== undefined;
  return (
    <g aria-label={`Points of ${part}`}>
      {all.length > 1 && (
        <path
          className={classes.draft}
          data-bad={(ghost && work.fault) || undefined}
          d={path(all, ring)}
          fillOpacity={ring ? undefined : 0}
          strokeWidth={unit / 500}
        />
      )}
      {points.map((p, i) => (
        <Handle
          // biome-ignore lint/suspicious/noArrayIndexKey: a point is its place in the outline
          key={i}
          at={p}
          r={unit / 210}
          name={`Point ${i + 1} of ${part}`}
          onMove={(to) =>
            work.setGhost({ part, side: view.side, point: i, points: points.map((q, k) => (k === i ? to : q)) })
          }
          onRest={() => {
            const to = ghost?.points[i];
            if (ghost && to) {
              work.take([{ op: 'drag', drag: { part, side: view.side, point: i, to, step: work.step } }]);
            }
          }}
        />
      ))}
    </g>
  );
}

/** Wheels, arms and track over the left side, as they would be. */
export function GearHandles({ view, data, work }: { view: View; data: BuildState; work: FormWork }) {
  if (view.side !== 'left') {
    return null;
  }
  const { build, plan } = data;
  const wheels = work.wheels ?? build.wheels;
  const gear = work.live ?? plan.gear;
  const scale = build.scale;
  const unit = plan.sheet.width;
  const line: Point[] = [];
  for (let i = 0; i + 1 < (gear?.line.length ?? 0); i += 2) {
    line.push(onView(view, scale, [gear?.line[i] ?? 0, gear?.line[i + 1] ?? 0]));
  }
  const stand = (i: number): Point =>
    work.wheels ? [wheels[i]?.x ?? 0, wheels[i]?.z ?? 0] : [gear?.stand[2 * i] ?? 0, gear?.stand[2 * i + 1] ?? 0];
  const ground = (build.ground ?? []).map((p) => onView(view, scale, p as Point));
  return (
    <g aria-label="Running gear">
      {line.length > 2 && <path className={classes.run} d={path(line, true)} strokeWidth={unit / 500} />}
      {ground.length > 1 && (
        <path className={classes.run} d={path(ground, false)} strokeWidth={unit / 350} strokeDasharray="2 1" />
      )}
      {wheels.map((w, i) => {
        const at = onView(view, scale, stand(i));
        const pivot = w.arm && onView(view, scale, [w.x + w.arm.x, w.z + w.arm.z]);
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: a wheel is its place in the list
          <g key={i}>
            <circle
              className={classes.draft}
              cx={at[0]}
              cy={at[1]}
              r={w.radius / scale}
              strokeWidth={unit / 800}
              fillOpacity={work.wheel === i ? 0.3 : 0}
            />
            {pivot && <path className={classes.arm} d={path([pivot, at], false)} strokeWidth={unit / 300} />}
            <Handle
              at={at}
              r={unit / 190}
              on={work.wheel === i}
              name={plan.gear?.names[i] ?? `wheel ${i + 1}`}
              onMove={(to) => {
                work.setWheel(i);
                const others = wheels.filter((o, k) => k !== i && o.kind === w.kind).map((o): Point => [o.x, o.z]);
                // Along x a wheel catches on steps only: wheels stand beside, not in, each other.
                const raw = fromView(view, scale, to);
                const [, z] = snapped(raw, work.step, others, (unit / 300) * scale);
                const x = Math.round(raw[0] / work.step) * work.step;
                work.tryWheels(wheels.map((o, k) => (k === i ? { ...o, x, z } : o)));
              }}
              onRest={() => (work.wheels ? work.take([{ op: 'wheels', wheels: work.wheels }]) : work.setWheel(i))}
            />
          </g>
        );
      })}
    </g>
  );
}
