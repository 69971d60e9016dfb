import type { BuildState } from '../api/client';
import { isScheme } from '../room/places';

/** The name of what the plate shows: as it stands at a step, or what is asked for instead: the scheme once it is
 * on, all of it at the end, or a layer, by its id, once that is on. */
export function lookOf(state: BuildState | undefined, at: number, asked?: 'on' | 'end' | string): string {
  const { plan, build } = state ?? {};
  const stood = plan?.steps[at]?.look ?? plan?.bare ?? '';
  const layer = asked === 'on' ? build?.layers.find(isScheme)?.id : asked;
  const shown =
    asked === undefined
      ? undefined
      : asked === 'end'
        ? plan?.steps.at(-1)
        : plan?.steps.findLast((s) => s.layer === layer && s.status !== 'skipped');
  return shown?.look ?? stood;
}
