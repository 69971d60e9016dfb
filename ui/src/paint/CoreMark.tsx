import type { BuildState, View } from '../api/client';
import own from './Core.module.css';
import { type Spot, useCore } from './useFate';

interface MarkProps {
  view: View;
  data: BuildState;
  look: string;
  spot?: Spot;
  zone?: string;
}

/** Where the core is taken, over the views that show the place. */
export function CoreMark({ view, data, look, spot, zone }: MarkProps) {
  const core = useCore(data.build.id, look, spot, zone).data;
  const seen = spot || zone ? core?.seen.find((s) => s.side === view.side) : undefined;
  if (!seen) {
    return null;
  }
  const [x = 0, y = 0] = seen.at;
  const r = data.plan.sheet.width / 130;
  return (
    <g className={own.mark}>
      <circle cx={x} cy={y} r={r} />
      <path d={`M${x - 2 * r} ${y}h${4 * r}M${x} ${y - 2 * r}v${4 * r}`} />
    </g>
  );
}
