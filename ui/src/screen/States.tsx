import { useState } from 'react';
import type { Plan, Step, View } from '../api/client';
import { clock } from '../clock';
import { viewNames } from '../plate/Plate';
import { pictureUrl } from '../plate/usePlate';
import classes from './BuildScreen.module.css';
import { statesOf } from './states';

/** Points to a millimetre of a state's picture. */
const fine = 4;

interface StatesProps {
  plan: Plan;
  at: number;
  onStand: (index: number) => void;
}

/** The vehicle at six places of its path, one beside the other; a picture leads to its step. */
export function States({ plan, at, onStand }: StatesProps) {
  const [side, setSide] = useState<View['side']>('left');
  const look = plan.steps[at]?.look;
  return (
    <section className={classes.states} aria-label="Six states along the path">
      <p className={classes.sides}>
        {plan.views.map((v) => (
          <button
            type="button"
            key={v.side}
            className="word"
            aria-pressed={v.side === side}
            onClick={() => setSide(v.side)}
          >
            {viewNames[v.side]}
          </button>
        ))}
      </p>
      <ol>
        {statesOf(plan.steps, 6).map(({ index, made }) => {
          const step = plan.steps[index];
          return (
            step && (
              <li key={step.id}>
                <button
                  type="button"
                  aria-current={step.look === look ? 'step' : undefined}
                  onClick={() => onStand(index)}
                >
                  <img
                    src={pictureUrl(plan.build, step.look, side, fine)}
                    alt={`${plan.name}: ${made?.title ?? 'bare'}`}
                  />
                  <strong>{made?.title ?? 'As it comes out of the kit'}</strong> {made && <small>{when(made)}</small>}
                </button>
              </li>
            )
          );
        })}
      </ol>
    </section>
  );
}

function when(step: Step): string {
  const end = step.spans.at(-1)?.to;
  return step.status === 'done' || !end ? step.stage.toLowerCase() : clock(end);
}
