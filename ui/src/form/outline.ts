import type { Body, View } from '../api/client';

export type Point = [number, number];

/** What of a part can be dragged in a view: points in real mm along the view's axes. */
export interface Outline {
  points: Point[];
  /** How they are joined. */
  closed: boolean;
  /** The mirror image of the points about the vehicle's middle belongs to it. */
  mirrored?: boolean;
  /** How many of the last points stand for themselves: a centre, a pivot. */
  loose?: number;
  put: (points: Point[]) => Body;
}

const changed = <T extends { id: string }>(list: T[] | undefined, id: string, change: Partial<T>) =>
  (list ?? []).map((x) => (x.id === id ? { ...x, ...change } : x));

/** The outline of a part in a view; none where nothing of it is drawn there. */
export function outlineOf(body: Body, part: string, side: View['side']): Outline | undefined {
  const hull = body.hulls?.find((h) => h.id === part);
  if (hull && side === 'left') {
    return {
      points: hull.profile as Point[],
      closed: true,
      put: (profile) => ({ ...body, hulls: changed(body.hulls, part, { profile }) }),
    };
  }
  const turret = body.turrets?.find((t) => t.id === part);
  if (turret && side === 'top') {
    return {
      points: [...turret.plan.map(([x = 0, y = 0]): Point => [x + turret.x, y + turret.y]), [turret.x, turret.y]],
      closed: false,
      mirrored: turret.y === 0,
      loose: 1,
      put: (points) => {
        const at = points[points.length - 1] ?? [0, 0];
        const moved = at[0] !== turret.x || at[1] !== turret.y;
        const plan = moved
          ? turret.plan
          : points.slice(0, -1).map(([x, y]): Point => [x - turret.x, Math.max(y - turret.y, 0)]);
        return { ...body, turrets: changed(body.turrets, part, { x: at[0], y: at[1], plan }) };
      },
    };
  }
  const gun = body.guns?.find((g) => g.id === part);
  if (gun && side === 'left') {
    return {
      points: [[gun.x, gun.z]],
      closed: false,
      loose: 1,
      put: ([at = [0, 0]]) => ({ ...body, guns: changed(body.guns, part, { x: at[0], z: at[1] }) }),
    };
  }
  const fender = body.fenders?.find((f) => f.id === part);
  if (fender && side === 'left') {
    return {
      points: fender.line as Point[],
      closed: false,
      put: (line) => ({ ...body, fenders: changed(body.fenders, part, { line }) }),
    };
  }
  const skirt = body.skirts?.find((s) => s.id === part);
  if (skirt && side === 'left') {
    return {
      points: [
        [skirt.front, skirt.base],
        [skirt.rear, skirt.top],
      ],
      closed: false,
      loose: 2,
      put: ([a = [0, 0], b = [0, 0]]) => ({
        ...body,
        skirts: changed(body.skirts, part, { front: a[0], base: a[1], rear: b[0], top: b[1] }),
      }),
    };
  }
  const fitting = body.fittings?.find((f) => f.id === part);
  const axes: Partial<Record<View['side'], [number, number]>> = { left: [0, 2], top: [0, 1], front: [1, 2] };
  const on = axes[side];
  if (fitting && on) {
    const [a, b] = on;
    return {
      points: [[fitting.at[a] ?? 0, fitting.at[b] ?? 0]],
      closed: false,
      loose: 1,
      put: ([p = [0, 0]]) => {
        const at = [...fitting.at];
        at[a] = p[0];
        at[b] = p[1];
        return { ...body, fittings: changed(body.fittings, part, { at }) };
      },
    };
  }
  return undefined;
}

/** Which way the axes of the points run in a view. */
const ways: Partial<Record<View['side'], Point>> = { left: [-1, -1], top: [-1, 1], front: [1, -1] };

export const onView = (view: View, scale: number, [a, b]: Point): Point => {
  const [wa, wb] = ways[view.side] ?? [1, 1];
  return [(view.origin[0] ?? 0) + (wa * a) / scale, (view.origin[1] ?? 0) + (wb * b) / scale];
};

export const fromView = (view: View, scale: number, [x, y]: Point): Point => {
  const [wa, wb] = ways[view.side] ?? [1, 1];
  return [(x - (view.origin[0] ?? 0)) * scale * wa, (y - (view.origin[1] ?? 0)) * scale * wb];
};

/** A dragged point catches on whole steps, and on the places of its neighbours when near. */
export const snapped = ([a, b]: Point, step: number, others: Point[], near: number): Point => {
  const axis = (v: number, k: 0 | 1) => {
    const mate = others.find((o) => Math.abs(o[k] - v) < near);
    return mate ? mate[k] : Math.round(v / step) * step;
  };
  return [axis(a, 0), axis(b, 1)];
};
