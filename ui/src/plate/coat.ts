import type { Plan, Step } from '../api/client';

/** What is on the surface at the step one stands on. */
export interface Coat {
  /** Colour of the bare or primed surface. */
  ground: string;
  /** How many colours of the scheme are on, 0 for none. */
  colours: number;
}

const kind = (step: Step) => step.id.split(':')[0];

/** Reads off the path which coats are on once the step at this place is begun. */
export function coatAt(plan: Plan, at: number): Coat {
  const on = plan.steps.slice(0, at + 1);
  const primer = on.findLast((s) => kind(s) === 'prime');
  const colours = on.filter((s) => kind(s) === 'colour' && plan.colours.some((c) => c.hex === s.hex)).length;
  return { ground: primer?.hex ?? 'var(--plastic)', colours: Math.min(colours, plan.colours.length) };
}
