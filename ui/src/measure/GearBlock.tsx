import { NumberInput } from '@mantine/core';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import type { RoomProps } from '../room/props';
import { wayTo } from '../room/stages';
import { Why } from '../why/Why';
import classes from './Measure.module.css';

/** What the track takes, beside the sizes. */
export function GearBlock({ tools, data }: RoomProps) {
  const { plan, build } = data;
  return plan.gear && plan.gear.links > 0 ? (
    <div className={classes.pair}>
      <Why why={plan.gear.why} name="Links per side">
        <span className={classes.big} data-links={plan.gear.links}>
          {plan.gear.links}
        </span>
      </Why>
      <span>
        track links a side, <span className="model">{plan.gear.slack}</span> slack on a taut loop of {plan.gear.loop}
      </span>
      <Supplied
        kept={build.link.supplied ?? 0}
        onKeep={(n) => tools.edit.mutate([{ op: 'link', link: { ...build.link, supplied: n } }])}
      />
      <span>links in the kit a side. {plan.gear.verdict}</span>
      <span className={classes.mute}>more</span>
      <span>
        <Link className={classes.link} to={wayTo(build.id, 'Form', 'Gear')}>
          Sag, runs, fewer and more links, and the wheels
        </Link>
      </span>
    </div>
  ) : null;
}

/** Taken when one leaves the field or presses Enter, not at every figure. */
function Supplied({ kept, onKeep }: { kept: number; onKeep: (links: number) => void }) {
  const [links, setLinks] = useState<number | string>(kept);
  useEffect(() => setLinks(kept), [kept]);
  const take = () => Number(links) !== kept && onKeep(Number(links) || 0);
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        take();
      }}
    >
      <NumberInput
        size="xs"
        w={86}
        min={0}
        max={1000}
        allowDecimal={false}
        aria-label="Links the kit supplies for each side"
        value={links}
        onChange={setLinks}
        onBlur={take}
      />
    </form>
  );
}
