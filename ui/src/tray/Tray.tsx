import { useEffect, useState } from 'react';
import type { BuildState } from '../api/client';
import type { BuildTools } from '../build/useBuild';
import { EveningsTray } from './EveningsTray';
import { Findings } from './Findings';
import { LayersTray } from './LayersTray';
import { SchemeTray } from './SchemeTray';
import { SizesTray } from './SizesTray';
import { StepCard } from './StepCard';
import classes from './Tray.module.css';

export interface TrayProps {
  tools: BuildTools;
  data: BuildState;
  at: number;
  zone?: string;
  onZone: (zone?: string) => void;
  onMark: (zones: string[]) => void;
}

const rooms = ['Sizes', 'Scheme', 'Layers', 'Evenings'] as const;
type Room = (typeof rooms)[number];

const roomOf: Record<string, Room> = {
  Build: 'Sizes',
  Paint: 'Scheme',
  Markings: 'Layers',
  Wear: 'Layers',
  Earth: 'Layers',
  Finish: 'Evenings',
};

/** The tools of the stage one stands on; the words at its head go to another by hand. */
export function Tray(props: TrayProps) {
  const step = props.data.plan.steps[props.at];
  const stage = step?.stage ?? 'Build';
  const [room, setRoom] = useState<Room>(roomOf[stage] ?? 'Sizes');
  useEffect(() => setRoom(roomOf[stage] ?? 'Sizes'), [stage]);
  const { findings } = props.data.plan;
  return (
    <aside className={classes.tray} aria-label="The tray">
      {step && <StepCard step={step} plan={props.data.plan} log={props.tools.log} />}
      {findings.length > 0 && <Findings {...props} />}
      <div className={classes.rooms} role="tablist" aria-label="What the tray holds">
        {rooms.map((r) => (
          <button
            key={r}
            type="button"
            role="tab"
            aria-selected={r === room}
            className={classes.room}
            onClick={() => setRoom(r)}
          >
            {r}
          </button>
        ))}
      </div>
      {/* All stay in place, so that what was typed is not lost by looking elsewhere. */}
      <div hidden={room !== 'Sizes'}>
        <SizesTray {...props} />
      </div>
      <div hidden={room !== 'Scheme'}>
        <SchemeTray {...props} />
      </div>
      <div hidden={room !== 'Layers'}>
        <LayersTray {...props} />
      </div>
      <div hidden={room !== 'Evenings'}>
        <EveningsTray {...props} />
      </div>
    </aside>
  );
}
