import { Button, Select } from '@mantine/core';
import type { Workshop } from '../api/client';
import { useEvenings } from '../api/useLibrary';
import classes from '../room/room.module.css';
import { Figure, Word } from '../room/Short';
import { TakeOut } from '../room/TakeOut';

type Airbrush = NonNullable<Workshop['airbrushes']>[number];

/** The airbrushes, and what is in each. */
export function Airbrushes({ workshop, onSet }: { workshop: Workshop; onSet: (next: Workshop) => void }) {
  const brushes = workshop.airbrushes ?? [];
  const evenings = useEvenings();
  const set = (airbrushes: Airbrush[]) => onSet({ ...workshop, airbrushes });
  return (
    <details>
      <summary>Airbrushes ({brushes.length})</summary>
      {brushes.map((b) => {
        const change = (by: Partial<Airbrush>) => set(brushes.map((x) => (x.id === b.id ? { ...x, ...by } : x)));
        // What is in it follows from the log until somebody looks and types: that holds from now on.
        const loaded = evenings.data?.airbrushes.find((x) => x.id === b.id && (x.since ?? '') === (b.since ?? '')) ?? b;
        const look = (by: { paint?: string; changes?: number }) =>
          change({ paint: loaded.paint, changes: loaded.changes, ...by, since: new Date().toISOString() });
        return (
          <div key={b.id} className={classes.row}>
            <Word label="Airbrush" wide={130} value={b.name} onTake={(name) => change({ name })} />
            <Figure
              label="nozzle, mm"
              wide={80}
              step={0.05}
              value={b.nozzleMm}
              onTake={(nozzleMm) => change({ nozzleMm: nozzleMm ?? 0 })}
            />
            <Word label="in it now" wide={150} hint="clean" value={loaded.paint} onTake={(paint) => look({ paint })} />
            <Figure
              label="changes since strip"
              wide={110}
              min={0}
              value={loaded.changes}
              onTake={(changes) => look({ changes: changes ?? 0 })}
            />
            <Select
              size="xs"
              w={120}
              label="just now"
              placeholder="…"
              data={['flushed', 'stripped']}
              value={null}
              onChange={(v) => v && look(v === 'stripped' ? { paint: '', changes: 0 } : { paint: '' })}
            />
            <TakeOut what={b.name} onTake={() => set(brushes.filter((x) => x !== b))} />
          </div>
        );
      })}
      <Select
        size="xs"
        w={130}
        label="Pressure in"
        allowDeselect={false}
        data={['bar', 'psi']}
        value={workshop.pressure || 'bar'}
        onChange={(pressure) => onSet({ ...workshop, pressure: pressure === 'psi' ? 'psi' : 'bar' })}
      />
      <Button
        size="xs"
        variant="outline"
        onClick={() =>
          set([...brushes, { id: crypto.randomUUID(), name: 'airbrush', nozzleMm: 0.3, paint: '', changes: 0 }])
        }
      >
        Add an airbrush
      </Button>
    </details>
  );
}
