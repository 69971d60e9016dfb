import type { Step } from '../api/client';
import classes from './room.module.css';

/** How what it fits is joined, and where the leaflet is wrong. */
export function Told({ step }: { step: Step }) {
  return (
    <>
      {step.told?.map((t) => (
        <p key={t} role="note" className={classes.caution}>
          {t}
        </p>
      ))}
      {(step.joints ?? []).length > 0 && (
        <ul className={classes.waits} aria-label="How it is joined">
          {step.joints?.map((j) => (
            <li key={j}>{j}</li>
          ))}
        </ul>
      )}
    </>
  );
}
