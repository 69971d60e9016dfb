import type { Body } from '../api/client';

export const lists = ['hulls', 'turrets', 'guns', 'fenders', 'skirts', 'fittings'] as const;
/** The lists of a body, and one of each in words. */
export type List = (typeof lists)[number];

export const one: Record<List, string> = {
  hulls: 'hull',
  turrets: 'turret',
  guns: 'gun',
  fenders: 'fender',
  skirts: 'skirt',
  fittings: 'fitting',
};

/** The numbers of a part, by its list; points and places have tables of their own. */
export const numbers: Record<List, [key: string, label: string][]> = {
  hulls: [
    ['width', 'width'],
    ['inSide', 'sides lean in'],
    ['inNose', 'narrower in front'],
  ],
  turrets: [
    ['height', 'height'],
    ['ring', 'ring, radius'],
    ['inFront', 'front leans'],
    ['inSide', 'sides lean'],
    ['inRear', 'rear leans'],
  ],
  guns: [
    ['y', 'beside the middle'],
    ['elevation', 'elevation, °'],
  ],
  fenders: [
    ['inner', 'inner edge'],
    ['outer', 'outer edge'],
    ['thick', 'thickness'],
  ],
  skirts: [
    ['out', 'outer face'],
    ['thick', 'thickness'],
    ['sections', 'sections'],
  ],
  fittings: [
    ['turn', 'turned, °'],
    ['count', 'count'],
  ],
};

export const find = (body: Body, id?: string): [List, Record<string, unknown>] | undefined => {
  for (const list of lists) {
    const part = body[list]?.find((p) => p.id === id);
    if (part) {
      return [list, part as unknown as Record<string, unknown>];
    }
  }
  return undefined;
};

export const replaced = (body: Body, list: List, id: string, change: object | null): Body => ({
  ...body,
  [list]: (body[list] ?? []).flatMap((p) => (p.id !== id ? [p] : change ? [{ ...p, ...change }] : [])),
});
