import type { Plan, Step } from '../api/client';

/** A look of the path: the last step that it stands after. */
export interface State {
  index: number;
  stage: string;
  /** The step that brought it; none of what is bare. */
  made?: Step;
}

/**
 * States of the build that tell its path best: the first look, the last one, those that the
 * stages end with, and what lies in the middle of the longest runs between them.
 */
export function statesOf(steps: Plan['steps'], count: number): State[] {
  const looks = steps.flatMap((s, index) => {
    const first = steps.findIndex((x) => x.look === s.look);
    return steps[index + 1]?.look === s.look
      ? []
      : [{ index, stage: s.stage, made: first > 0 ? steps[first] : undefined }];
  });
  const ends = looks.map((l, i) => i === 0 || i === looks.length - 1 || looks[i + 1]?.stage !== l.stage);
  const picks = looks.map((_, i) => i).filter((i) => ends[i]);
  const gap = (k: number, over = 1) => (picks[k + over] ?? 0) - (picks[k] ?? 0);
  while (picks.length < Math.min(count, looks.length)) {
    const widest = picks.slice(1).reduce((best, _, k) => (gap(k) > gap(best) ? k : best), 0);
    picks.splice(widest + 1, 0, (picks[widest] ?? 0) + Math.floor(gap(widest) / 2));
  }
  while (picks.length > count) {
    const nearest = picks.slice(2).reduce((best, _, k) => (gap(k, 2) < gap(best, 2) ? k : best), 0);
    picks.splice(nearest + 1, 1);
  }
  return picks.flatMap((i) => looks[i] ?? []);
}
