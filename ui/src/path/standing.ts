import type { Plan, Step } from '../api/client';
import { clock, left } from '../clock';

/** What state a step is in, in words. */
export function standing(step: Step, plan: Plan): string {
  const from = step.spans[0]?.from;
  switch (step.status) {
    case 'done':
      return 'Done';
    case 'drying':
      return `Done, drying: ${left(plan.asOf, step.until ?? plan.asOf)} left`;
    case 'now':
      return 'Under way';
    case 'ready':
      return from ? `Ready, laid on ${clock(from)}` : 'Ready';
    case 'waiting':
      return `Wait until ${clock(step.until ?? plan.asOf)}`;
    case 'skipped':
      return 'Left out';
    default:
      return from ? `Laid on ${clock(from)}` : 'Later';
  }
}

/** Steps at which left and right can be put together the wrong way round. */
export const handed = (step: Step) => step.kind === 'fitgear' || (step.kind === 'assemble' && step.part === 'tracks');

/** Whether nothing is left to do about a step. */
export const over = (step: Step) => step.status === 'done' || step.status === 'drying' || step.status === 'skipped';

/** What is seen before a step of the path is done. */
export const before = (plan: Plan, at: number): string => plan.steps[at - 1]?.look ?? plan.bare;
