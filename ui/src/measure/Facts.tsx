import type { Fact } from '../api/client';
import { Why } from '../why/Why';
import classes from './Measure.module.css';

/** Numbers with their names; each can be asked why. */
export function Facts({ facts }: { facts: Fact[] }) {
  return (
    <dl className={classes.facts}>
      {facts.map((f) => (
        <div key={`${f.name} ${f.value}`}>
          <dt>{f.name}</dt>
          <dd>
            <Why why={f.why} name={f.name}>
              <span className={f.of}>{f.value}</span>
            </Why>
          </dd>
        </div>
      ))}
    </dl>
  );
}
