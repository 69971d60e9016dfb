import type { Plan } from '../api/client';

/** A place as people say it. */
export const said = (plan: Plan, place: string) => plan.places[place] ?? place;

/** Several places as people say them; none means everywhere. */
export const saidAll = (plan: Plan, places: string[] | undefined, none = 'everywhere') =>
  places?.length
    ? places
        .slice(0, few)
        .map((p) => said(plan, p))
        .join('; ') + (places.length > few ? ` and ${places.length - few} more` : '')
    : none;

/** Whether what lies on some places, or everywhere, lies on a zone. */
export const liesOn = (places: string[] | undefined, zone: string) =>
  !places?.length || places.some((p) => zone === p || zone.startsWith(`${p}.`));

/** More places than these are counted. */
const few = 4;

/** All zones and parts to choose from, by name. */
export const choices = (plan: Plan) =>
  Object.entries(plan.places)
    .map(([value, label]) => ({ value, label }))
    .sort((a, b) => a.label.localeCompare(b.label));

/** The parts of the vehicle, in the order of its zones. */
export const partsOf = (plan: Plan) => [...new Set(plan.zones.map((z) => z.part))];

/** Some of the places to choose from, by name; one that an edit took away keeps its own. */
export const named = (plan: Plan, places: string[]) => places.map((p) => ({ value: p, label: said(plan, p) }));

/** Whether a layer is the scheme: colour without one of its own. */
export const isScheme = (l: { kind: string; hex?: string }) => l.kind === 'colour' && !l.hex;
