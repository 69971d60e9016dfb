import { useState } from 'react';
import type { Plan, View } from '../api/client';
import { before } from '../path/standing';
import { viewNames } from '../plate/Plate';
import { pictureUrl } from '../plate/usePlate';
import classes from './BenchScreen.module.css';

/** Where the step works: the views that show it, what it touches in its colours and the rest
 * grey. As it will be; a press compares with how it is before. */
export function Places({ plan, at }: { plan: Plan; at: number }) {
  const [was, setWas] = useState(false);
  const step = plan.steps[at];
  if (!step) {
    return null;
  }
  const looks = { after: step.look, before: before(plan, at) };
  const changes = looks.after !== looks.before;
  const views = step.sides.slice(0, 3).flatMap((side) => plan.views.filter((v) => v.side === side));
  return (
    <section className={classes.places} aria-label="Where it is done">
      <div className={classes.views}>
        {views.map((v) => (
          <figure key={v.side}>
            <figcaption>{viewNames[v.side]}</figcaption>
            <div className={classes.one}>
              {(['after', 'before'] as const).map((when) => (
                <Shown
                  key={when}
                  plan={plan}
                  view={v}
                  look={looks[when]}
                  only={step.zones}
                  hidden={(when === 'before') !== was}
                />
              ))}
            </div>
          </figure>
        ))}
      </div>
      {changes ? (
        <button type="button" className={classes.compare} aria-pressed={was} onClick={() => setWas(!was)}>
          {was ? 'Before this step' : 'After this step'} <kbd>press to compare</kbd>
        </button>
      ) : (
        <p className={classes.mute}>This step changes nothing that is seen.</p>
      )}
    </section>
  );
}

/** Points along the longer side of a picture: sharp on half of a large screen. */
const fine = 900;

interface ShownProps {
  plan: Plan;
  view: View;
  look: string;
  only?: string[];
  hidden: boolean;
}

/** Both pictures are there from the beginning, so that pressing shows the other at once. */
function Shown({ plan, view, look, only, hidden }: ShownProps) {
  const px = Number((fine / Math.max(view.width, view.height)).toFixed(3));
  return (
    <img
      src={pictureUrl(plan.build, look, view.side, px, undefined, only)}
      alt={`${viewNames[view.side]}, what the step touches in colour`}
      data-look={look}
      style={{ visibility: hidden ? 'hidden' : undefined }}
    />
  );
}
