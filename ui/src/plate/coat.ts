import type { Plan, Step } from '../api/client';

/** What is on the surface at the step one stands on. */
export interface Coat {
  /** Colour of the bare or primed surface. */
  ground: string;
  /** How many colours of the scheme are on, 0 for none. */
  colours: number;
  /** What lies over the scheme, in order: tint, how strong it reads, and where. */
  over: { hex: string; strength: number; zones: string[] }[];
}

/** How strongly a layer of a kind reads from an arm's length; the real look comes with its own stage. */
const strength: Record<string, number> = {
  colour: 0.82,
  wash: 0.1,
  filter: 0.08,
  rust: 0.2,
  streaks: 0.15,
  dots: 0.08,
  dust: 0.3,
  mud: 0.5,
  splash: 0.15,
  wet: 0.08,
  grease: 0.05,
  soot: 0.05,
  pigment: 0.3,
};

export const reaches = (zones: string[], zone: string) =>
  zones.length === 0 || zones.some((z) => zone === z || zone.startsWith(`${z}.`));

const kind = (step: Step) => step.id.split(':')[0];

/** Reads off the path which coats are on once the step at this place is begun. */
export function coatAt(plan: Plan, at: number): Coat {
  const on = plan.steps.slice(0, at + 1);
  const primer = on.findLast((s) => kind(s) === 'prime');
  const colours = on.filter((s) => kind(s) === 'colour' && plan.colours.some((c) => c.hex === s.hex)).length;
  const over = on
    .filter(
      (s) => s.hex && strength[kind(s) ?? ''] && !(kind(s) === 'colour' && plan.colours.some((c) => c.hex === s.hex)),
    )
    .map((s) => ({ hex: s.hex ?? '', strength: strength[kind(s) ?? ''] ?? 0, zones: s.zones ?? [] }));
  return { ground: primer?.hex ?? 'var(--plastic)', colours: Math.min(colours, plan.colours.length), over };
}
