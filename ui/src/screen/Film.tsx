import type { Plan } from '../api/client';
import classes from './BuildScreen.module.css';

/** A step that stands at the left of a seam, model mm from the left of the sheet. */
export interface Held {
  step: string;
  seam: number;
}

interface FilmProps {
  plan: Plan;
  at: number;
  held?: Held;
  onHold: (held?: Held) => void;
  rowed: boolean;
  onRow: () => void;
  playing: boolean;
  onPlay: () => void;
}

/** The path as a film, and one step held beside another. */
export function Film({ plan, at, held, onHold, rowed, onRow, playing, onPlay }: FilmProps) {
  const step = plan.steps[at];
  const holding = plan.steps.find((s) => s.id === held?.step);
  return (
    <span className={classes.film}>
      {held && holding && (
        <label>
          {holding.title} | {step?.title}
          <input
            type="range"
            aria-label="Seam between the two steps"
            min={0}
            max={plan.sheet.width}
            step="any"
            value={held.seam}
            onChange={(e) => onHold({ ...held, seam: Number(e.currentTarget.value) })}
          />
        </label>
      )}
      <button
        type="button"
        className="word"
        aria-pressed={held !== undefined}
        onClick={() => onHold(held || !step ? undefined : { step: step.id, seam: plan.sheet.width / 2 })}
      >
        {held ? 'Compare no more' : 'Hold to compare'}
      </button>
      <button type="button" className="word" aria-pressed={rowed} onClick={onRow}>
        Six states
      </button>
      <button type="button" className="word" aria-pressed={playing} onClick={onPlay}>
        {playing ? '❚❚ Stop' : '▶ Play the path'}
      </button>
    </span>
  );
}
