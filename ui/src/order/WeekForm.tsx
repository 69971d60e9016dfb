import { Button, NumberInput, TextInput } from '@mantine/core';
import { useState } from 'react';
import { type Workshop, words } from '../api/client';
import { useWorkshop } from '../api/useWorkshop';
import classes from '../room/room.module.css';
import { Places } from './Places';

type Hours = Workshop['calendar']['weekly'][number];

const days = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday'];
const order = [1, 2, 3, 4, 5, 6, 0];

/** The hours at the bench and the air in the room; all builds share them. */
export function WeekForm() {
  const { workshop: known, keep } = useWorkshop();
  const [typed, setTyped] = useState<Workshop>();
  const workshop = typed ?? known;
  if (!workshop) {
    return null;
  }
  const { calendar } = workshop;
  const set = (change: Partial<Workshop['calendar']>) =>
    setTyped({ ...workshop, calendar: { ...calendar, ...change } });
  // A day may have several stretches; one whose hours are emptied is gone.
  const hours = (old: Hours, at: 'from' | 'to', value: string) => {
    const next = { ...old, [at]: value };
    const here = calendar.weekly.indexOf(old);
    const kept = next.from === '' && next.to === '' ? [] : [next];
    set({ weekly: here < 0 ? [...calendar.weekly, ...kept] : calendar.weekly.toSpliced(here, 1, ...kept) });
  };
  return (
    <form
      className={classes.form}
      aria-label="Hours at the bench"
      onSubmit={(e) => {
        e.preventDefault();
        keep.mutate(() => workshop, { onSuccess: () => setTyped(undefined) });
      }}
    >
      <h3>Hours at the bench</h3>
      <div className={classes.week}>
        {order
          .flatMap((day) => {
            const stretches = calendar.weekly.filter((x) => x.day === day);
            return (stretches.length ? stretches : [{ day, from: '', to: '' }]).map((w, i) => ({ w, i }));
          })
          .map(({ w, i }) => {
            const name = `${days[w.day]}${i ? ` again, ${i + 1}` : ''}`;
            return [
              <span key={name}>{i ? 'and' : name.slice(0, 3)}</span>,
              <TextInput
                key={`${name} from`}
                size="xs"
                aria-label={`${name} from`}
                placeholder="no work"
                value={w.from}
                onChange={(e) => hours(w, 'from', e.currentTarget.value)}
              />,
              <TextInput
                key={`${name} to`}
                size="xs"
                aria-label={`${name} to`}
                value={w.to}
                onChange={(e) => hours(w, 'to', e.currentTarget.value)}
              />,
            ];
          })}
      </div>
      <div className={classes.two}>
        <NumberInput
          label="Room, °C"
          value={calendar.temperatureC}
          onChange={(v) => set({ temperatureC: Number(v) })}
        />
        <NumberInput
          label="Humidity, %"
          value={Math.round(calendar.humidity * 100)}
          onChange={(v) => set({ humidity: Number(v) / 100 })}
        />
      </div>
      <Places workshop={workshop} onSet={setTyped} />
      <Button type="submit" size="xs" disabled={!typed} loading={keep.isPending}>
        Keep these hours
      </Button>
      {keep.isError && (
        <p role="alert" className={classes.error}>
          {words(keep.error)}
        </p>
      )}
    </form>
  );
}
