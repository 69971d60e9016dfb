import { Button, Checkbox } from '@mantine/core';
import { useState } from 'react';
import type { Workshop } from '../api/client';
import { useLibrary } from '../api/useLibrary';
import classes from '../room/room.module.css';
import { Figure, Word } from '../room/Short';
import { TakeOut } from '../room/TakeOut';
import { Airbrushes } from './Airbrushes';

type Calendar = Workshop['calendar'];

interface PlacesProps {
  workshop: Workshop;
  onSet: (next: Workshop) => void;
}

/** Days off and extra evenings, places with their own hours, the weather, the airbrushes. */
export function Places({ workshop, onSet }: PlacesProps) {
  const { calendar } = workshop;
  const set = (change: Partial<Calendar>) => onSet({ ...workshop, calendar: { ...calendar, ...change } });
  return (
    <>
      <Days calendar={calendar} onSet={set} />
      <Hours calendar={calendar} onSet={set} />
      <Air calendar={calendar} onSet={set} />
      <Airbrushes workshop={workshop} onSet={onSet} />
    </>
  );
}

interface PartProps {
  calendar: Calendar;
  onSet: (change: Partial<Calendar>) => void;
}

function Days({ calendar, onSet }: PartProps) {
  const days = calendar.exceptions ?? [];
  const [next, setNext] = useState({ date: '', from: '', to: '' });
  const put = () => {
    const windows = next.from ? [{ day: 0, from: next.from, to: next.to }] : [];
    onSet({ exceptions: [...days.filter((x) => x.date !== next.date), { date: next.date, windows }] });
    setNext({ date: '', from: '', to: '' });
  };
  return (
    <details>
      <summary>Days that differ ({days.length})</summary>
      {days.map((e) => (
        <p key={e.date}>
          {e.date}: {e.windows.length ? e.windows.map((w) => `${w.from} to ${w.to}`).join(', ') : 'no work'}{' '}
          <TakeOut what={e.date} onTake={() => onSet({ exceptions: days.filter((x) => x !== e) })} />
        </p>
      ))}
      <div className={classes.row}>
        <Word
          label="Date that differs"
          silent
          hint="2026-12-24"
          value={next.date}
          onTake={(date) => setNext({ ...next, date })}
        />
        <Word
          label="That day from"
          silent
          wide={80}
          hint="no work"
          value={next.from}
          onTake={(from) => setNext({ ...next, from })}
        />
        <Word label="That day to" silent wide={70} value={next.to} onTake={(to) => setNext({ ...next, to })} />
        <Button size="xs" variant="outline" disabled={!next.date} onClick={put}>
          Put it in
        </Button>
      </div>
    </details>
  );
}

function Hours({ calendar, onSet }: PartProps) {
  const places = calendar.places ?? [];
  type Place = (typeof places)[number];
  const place = (id: string): Place =>
    places.find((p) => p.id === id) ?? { id, name: id, weekly: [], outside: id === 'outdoors', vapour: id !== 'bench' };
  return (
    <details>
      <summary>Places</summary>
      {['booth', 'outdoors'].map(place).map((p) => {
        const first = p.weekly?.[0];
        const put = (by: Partial<Place>) =>
          onSet({ places: [...places.filter((x) => x.id !== p.id), { ...p, ...by }] });
        return (
          <div key={p.id} className={classes.row}>
            <Word label={`The ${p.id} is`} wide={130} value={p.name} onTake={(name) => put({ name })} />
            <Word
              label="daily from"
              wide={76}
              hint="always"
              value={first?.from ?? ''}
              onTake={(from) => put({ weekly: daily(from, first?.to ?? '') })}
            />
            <Word
              label="to"
              wide={70}
              value={first?.to ?? ''}
              onTake={(to) => put({ weekly: daily(first?.from ?? '', to) })}
            />
            <Figure label="not below °C" wide={90} value={p.leastC} onTake={(leastC) => put({ leastC })} />
            <Checkbox
              label="air from outside"
              checked={p.outside}
              onChange={(e) => put({ outside: e.currentTarget.checked })}
            />
          </div>
        );
      })}
    </details>
  );
}

const daily = (from: string, to: string) => (from || to ? [0, 1, 2, 3, 4, 5, 6].map((day) => ({ day, from, to })) : []);

interface Reading {
  date: string;
  temperature?: number;
  humidity?: number;
}

function Air({ calendar, onSet }: PartProps) {
  const library = useLibrary();
  const room = calendar.room ?? [];
  const [air, setAir] = useState<Reading>({ date: '' });
  const put = () => {
    const day = {
      date: air.date,
      temperatureC: air.temperature ?? 0,
      humidity: air.humidity === undefined ? calendar.humidity : air.humidity / 100,
    };
    onSet({ room: [...room.filter((x) => x.date !== air.date), day] });
    setAir({ date: '' });
  };
  return (
    <details>
      <summary>
        The air by day ({room.length} in the room, {(calendar.weather ?? []).length} outside)
      </summary>
      <div className={classes.row}>
        <Word
          label="Date of this air"
          silent
          hint="2026-11-24"
          value={air.date}
          onTake={(date) => setAir({ ...air, date })}
        />
        <Figure
          label="Room that day, °C"
          silent
          wide={80}
          hint="°C"
          value={air.temperature}
          onTake={(temperature) => setAir({ ...air, temperature })}
        />
        <Figure
          label="Humidity that day, %"
          silent
          wide={80}
          hint="%"
          value={air.humidity}
          onTake={(humidity) => setAir({ ...air, humidity })}
        />
        <Button size="xs" variant="outline" disabled={!air.date || air.temperature === undefined} onClick={put}>
          Put it in
        </Button>
        <button type="button" className="word" onClick={() => onSet({ weather: library.data?.weather })}>
          take the simulated weather
        </button>
        <button type="button" className="word" onClick={() => onSet({ weather: undefined, room: undefined })}>
          forget both
        </button>
      </div>
    </details>
  );
}
