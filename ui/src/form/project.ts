import type { View } from '../api/client';

export type Point = [number, number];

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
