import { Button, Checkbox, NumberInput, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { Workshop } from '../api/client';
import { useEvenings, useLibrary } from '../api/useLibrary';
import classes from '../room/room.module.css';

interface PlacesProps {
  workshop: Workshop;
  onSet: (next: Workshop) => void;
}

/** Days off and extra evenings, places with their own hours, the weather, the airbrushes. */
export function Places({ workshop, onSet }: PlacesProps) {
  const { calendar } = workshop;
  const library = useLibrary();
  const [extra, setExtra] = useState({ date: '', from: '', to: '' });
  const [air, setAir] = useState({ date: '', temperature: '' as number | string, humidity: '' as number | string });
  const set = (change: Partial<Workshop['calendar']>) => onSet({ ...workshop, calendar: { ...calendar, ...change } });
  const places = calendar.places ?? [];
  const place = (id: string) =>
    places.find((p) => p.id === id) ?? { id, name: id, weekly: [], outside: id === 'outdoors', vapour: id !== 'bench' };
  const put = (id: string, by: Partial<(typeof places)[number]>) =>
    set({ places: [...places.filter((p) => p.id !== id), { ...place(id), ...by }] });
  const brushes = workshop.airbrushes ?? [];
  const evenings = useEvenings();
  const brush = (id: string, by: Partial<(typeof brushes)[number]>) =>
    onSet({ ...workshop, airbrushes: brushes.map((b) => (b.id === id ? { ...b, ...by } : b)) });
  // What is in it follows from the log until somebody looks and types: that holds from now on.
  const loaded = (b: (typeof brushes)[number]) =>
    evenings.data?.airbrushes.find((x) => x.id === b.id && (x.since ?? '') === (b.since ?? '')) ?? b;
  const look = (b: (typeof brushes)[number], by: { paint?: string; changes?: number }) =>
    brush(b.id, { paint: loaded(b).paint, changes: loaded(b).changes, ...by, since: new Date().toISOString() });
  return (
    <>
      <details>
        <summary>Days that differ ({(calendar.exceptions ?? []).length})</summary>
        {(calendar.exceptions ?? []).map((e) => (
          <p key={e.date}>
            {e.date}: {e.windows.length ? e.windows.map((w) => `${w.from} to ${w.to}`).join(', ') : 'no work'}{' '}
            <button
              type="button"
              className="word"
              onClick={() => set({ exceptions: calendar.exceptions?.filter((x) => x !== e) })}
            >
              take out
            </button>
          </p>
        ))}
        <div className={classes.row}>
          <TextInput
            size="xs"
            aria-label="Date that differs"
            placeholder="2026-12-24"
            value={extra.date}
            onChange={(e) => setExtra({ ...extra, date: e.currentTarget.value })}
          />
          <TextInput
            size="xs"
            w={80}
            aria-label="That day from"
            placeholder="no work"
            value={extra.from}
            onChange={(e) => setExtra({ ...extra, from: e.currentTarget.value })}
          />
          <TextInput
            size="xs"
            w={70}
            aria-label="That day to"
            value={extra.to}
            onChange={(e) => setExtra({ ...extra, to: e.currentTarget.value })}
          />
          <Button
            size="xs"
            variant="outline"
            disabled={!extra.date}
            onClick={() => {
              const windows = extra.from ? [{ day: 0, from: extra.from, to: extra.to }] : [];
              set({
                exceptions: [
                  ...(calendar.exceptions ?? []).filter((x) => x.date !== extra.date),
                  { date: extra.date, windows },
                ],
              });
              setExtra({ date: '', from: '', to: '' });
            }}
          >
            Put it in
          </Button>
        </div>
      </details>
      <details>
        <summary>Places</summary>
        {['booth', 'outdoors'].map((id) => {
          const p = place(id);
          const first = p.weekly?.[0];
          return (
            <div key={id} className={classes.row}>
              <TextInput
                size="xs"
                w={130}
                label={`The ${id} is`}
                value={p.name}
                onChange={(e) => put(id, { name: e.currentTarget.value })}
              />
              <TextInput
                size="xs"
                w={76}
                label="daily from"
                placeholder="always"
                value={first?.from ?? ''}
                onChange={(e) => put(id, { weekly: daily(e.currentTarget.value, first?.to ?? '') })}
              />
              <TextInput
                size="xs"
                w={70}
                label="to"
                value={first?.to ?? ''}
                onChange={(e) => put(id, { weekly: daily(first?.from ?? '', e.currentTarget.value) })}
              />
              <NumberInput
                size="xs"
                w={90}
                label="not below °C"
                value={p.leastC ?? ''}
                onChange={(v) => put(id, { leastC: v === '' ? undefined : Number(v) })}
              />
              <Checkbox
                label="air from outside"
                checked={p.outside}
                onChange={(e) => put(id, { outside: e.currentTarget.checked })}
              />
            </div>
          );
        })}
      </details>
      <details>
        <summary>
          The air by day ({(calendar.room ?? []).length} in the room, {(calendar.weather ?? []).length} outside)
        </summary>
        <div className={classes.row}>
          <TextInput
            size="xs"
            aria-label="Date of this air"
            placeholder="2026-11-24"
            value={air.date}
            onChange={(e) => setAir({ ...air, date: e.currentTarget.value })}
          />
          <NumberInput
            size="xs"
            w={80}
            aria-label="Room that day, °C"
            placeholder="°C"
            value={air.temperature}
            onChange={(temperature) => setAir({ ...air, temperature })}
          />
          <NumberInput
            size="xs"
            w={80}
            aria-label="Humidity that day, %"
            placeholder="%"
            value={air.humidity}
            onChange={(humidity) => setAir({ ...air, humidity })}
          />
          <Button
            size="xs"
            variant="outline"
            disabled={!air.date || air.temperature === ''}
            onClick={() => {
              const day = {
                date: air.date,
                temperatureC: Number(air.temperature),
                humidity: air.humidity === '' ? calendar.humidity : Number(air.humidity) / 100,
              };
              set({ room: [...(calendar.room ?? []).filter((x) => x.date !== air.date), day] });
              setAir({ date: '', temperature: '', humidity: '' });
            }}
          >
            Put it in
          </Button>
          <button type="button" className="word" onClick={() => set({ weather: library.data?.weather })}>
            take the simulated weather
          </button>
          <button type="button" className="word" onClick={() => set({ weather: undefined, room: undefined })}>
            forget both
          </button>
        </div>
      </details>
      <details>
        <summary>Airbrushes ({brushes.length})</summary>
        {brushes.map((b) => (
          <div key={b.id} className={classes.row}>
            <TextInput
              size="xs"
              w={130}
              label="Airbrush"
              value={b.name}
              onChange={(e) => brush(b.id, { name: e.currentTarget.value })}
            />
            <NumberInput
              size="xs"
              w={80}
              label="nozzle, mm"
              step={0.05}
              value={b.nozzleMm}
              onChange={(v) => brush(b.id, { nozzleMm: Number(v) })}
            />
            <TextInput
              size="xs"
              w={150}
              label="in it now"
              placeholder="clean"
              value={loaded(b).paint}
              onChange={(e) => look(b, { paint: e.currentTarget.value })}
            />
            <NumberInput
              size="xs"
              w={110}
              label="changes since strip"
              min={0}
              value={loaded(b).changes}
              onChange={(v) => look(b, { changes: Number(v) })}
            />
            <Select
              size="xs"
              w={120}
              label="just now"
              placeholder="…"
              data={['flushed', 'stripped']}
              value={null}
              onChange={(v) => v && look(b, v === 'stripped' ? { paint: '', changes: 0 } : { paint: '' })}
            />
            <button
              type="button"
              className="word"
              onClick={() => onSet({ ...workshop, airbrushes: brushes.filter((x) => x !== b) })}
            >
              take out
            </button>
          </div>
        ))}
        <Button
          size="xs"
          variant="outline"
          onClick={() =>
            onSet({
              ...workshop,
              airbrushes: [
                ...brushes,
                { id: crypto.randomUUID(), name: 'airbrush', nozzleMm: 0.3, paint: '', changes: 0 },
              ],
            })
          }
        >
          Add an airbrush
        </Button>
      </details>
    </>
  );
}

const daily = (from: string, to: string) => (from || to ? [0, 1, 2, 3, 4, 5, 6].map((day) => ({ day, from, to })) : []);
