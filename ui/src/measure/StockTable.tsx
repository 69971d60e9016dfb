import { Button, Checkbox, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { Stocked, Workshop } from '../api/client';
import { Trouble } from '../api/Trouble';
import { useWorkshop } from '../api/useWorkshop';
import { TakeOut } from '../room/TakeOut';
import classes from './Measure.module.css';
import { useStock } from './useMeasure';

/** The table of stock, and what one owns of it. */
export function StockTable() {
  const stock = useStock();
  const { workshop, keep } = useWorkshop();
  const [kind, setKind] = useState('wire');
  const [owned, setOwned] = useState(false);
  const [add, setAdd] = useState({ name: '', material: '', sizeMm: '', secondMm: '' });
  const shelf = (w: Workshop) => w.stock ?? {};
  const change = (f: (s: NonNullable<Workshop['stock']>) => NonNullable<Workshop['stock']>) =>
    keep.mutate((w) => ({ ...w, stock: f(shelf(w)) }));
  const own = (item: Stocked) =>
    change((s) => ({
      ...s,
      own: item.owned ? (s.own ?? []).filter((id) => id !== item.id) : [...(s.own ?? []), item.id],
    }));
  const drop = (item: Stocked) =>
    change((s) => ({
      ...s,
      own: (s.own ?? []).filter((id) => id !== item.id),
      added: (s.added ?? []).filter((a) => a.id !== item.id),
      gone: [
        ...(s.gone ?? []).filter((id) => id !== item.id),
        ...(item.id.startsWith(`${item.kind}:`) ? [item.id] : []),
      ],
    }));
  const resize = (item: Stocked, sizeMm: number, secondMm: number | undefined) =>
    change((s) => ({
      ...s,
      added: [
        ...(s.added ?? []).filter((a) => a.id !== item.id),
        { id: item.id, kind: item.kind, material: item.material, name: item.name, sizeMm, secondMm },
      ],
    }));
  const rows = (stock.data?.items ?? []).filter((i) => i.kind === kind && (i.owned || !owned));
  const second = { tube: 'Bore', strip: 'Width', mesh: 'Wire' }[kind];
  const gone = (workshop?.stock?.gone ?? []).filter((id) => id.startsWith(`${kind}:`));
  return (
    <div className={classes.stack}>
      <div className={classes.headRow}>
        <Select
          size="xs"
          aria-label="Kind of stock"
          w={120}
          data={stock.data?.kinds ?? []}
          value={kind}
          allowDeselect={false}
          onChange={(k) => k && setKind(k)}
        />
        <Checkbox
          size="xs"
          label="Only what I own"
          checked={owned}
          onChange={(e) => setOwned(e.currentTarget.checked)}
        />
        <span className={classes.gap} />
        {gone.length > 0 && (
          <button
            type="button"
            className="word"
            onClick={() => change((s) => ({ ...s, gone: (s.gone ?? []).filter((id) => !gone.includes(id)) }))}
          >
            Bring back {gone.length} taken out
          </button>
        )}
      </div>
      <Trouble error={keep.error} />
      <table className={classes.table}>
        <thead>
          <tr>
            <th>Own</th>
            <th>Name</th>
            <th>Material</th>
            <th>mm</th>
            {second && <th>{second}, mm</th>}
            <th />
          </tr>
        </thead>
        <tbody>
          {rows.map((i) => (
            <tr key={i.id} data-owned={i.owned || undefined}>
              <td>
                <Checkbox size="xs" aria-label={`I own ${i.name}`} checked={i.owned} onChange={() => own(i)} />
              </td>
              <td>
                {i.name}
                {i.changed && <span className={classes.mute}> your size</span>}
              </td>
              <td>{i.material}</td>
              <td>
                <Figure
                  label={`${i.name}, size in mm`}
                  value={i.sizeMm}
                  onTake={(v) => resize(i, v, i.secondMm || undefined)}
                />
              </td>
              {second && (
                <td>
                  <Figure
                    label={`${i.name}, ${second} in mm`}
                    value={i.secondMm ?? 0}
                    onTake={(v) => resize(i, i.sizeMm, v)}
                  />
                </td>
              )}
              <td>
                <TakeOut what={i.name} inRow onTake={() => drop(i)} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length === 0 && <p className={classes.mute}>Nothing here yet: tick what you own, or add a size.</p>}
      <form
        className={classes.need}
        aria-label="Add a size"
        onSubmit={(e) => {
          e.preventDefault();
          change((s) => ({
            ...s,
            added: [
              ...(s.added ?? []),
              {
                id: crypto.randomUUID(),
                kind,
                material: add.material,
                name: add.name,
                sizeMm: Number(add.sizeMm.replace(',', '.')) || 0,
                secondMm: Number(add.secondMm.replace(',', '.')) || undefined,
              },
            ],
          }));
          setAdd({ name: '', material: '', sizeMm: '', secondMm: '' });
        }}
      >
        <TextInput
          size="xs"
          label={`Add ${kind}`}
          placeholder="name"
          value={add.name}
          onChange={(e) => setAdd({ ...add, name: e.currentTarget.value })}
        />
        <TextInput
          size="xs"
          label="Material"
          value={add.material}
          onChange={(e) => setAdd({ ...add, material: e.currentTarget.value })}
        />
        <TextInput
          size="xs"
          label="Size, mm"
          value={add.sizeMm}
          onChange={(e) => setAdd({ ...add, sizeMm: e.currentTarget.value })}
        />
        {second && (
          <TextInput
            size="xs"
            label={`${second}, mm`}
            value={add.secondMm}
            onChange={(e) => setAdd({ ...add, secondMm: e.currentTarget.value })}
          />
        )}
        <Button type="submit" size="xs" className={classes.addButton} disabled={!add.name || !add.sizeMm}>
          Add to the table
        </Button>
      </form>
      {workshop && stock.data && (
        <Bends
          bend={stock.data.bend}
          onTake={(k, v) => change((s) => ({ ...s, bend: { ...(s.bend ?? {}), [k]: v } }))}
        />
      )}
    </div>
  );
}

function Figure({ label, value, onTake }: { label: string; value: number; onTake: (v: number) => void }) {
  const [text, setText] = useState(String(value));
  const [kept, setKept] = useState(value);
  if (kept !== value) {
    setKept(value);
    setText(String(value));
  }
  const take = () => {
    const v = Number(text.replace(',', '.'));
    if (v !== value) {
      onTake(v);
    }
  };
  return (
    <input
      className={classes.figure}
      aria-label={label}
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={take}
      onKeyDown={(e) => {
        if (e.key === 'Enter') {
          e.preventDefault();
          e.currentTarget.blur();
        }
      }}
    />
  );
}

const bendNames: Record<string, string> = { wire: 'wire', thread: 'thread', rod: 'rod', cable: 'twisted wire' };

function Bends({ bend, onTake }: { bend: Record<string, number>; onTake: (kind: string, v: number) => void }) {
  return (
    <div className={classes.headRow}>
      <span>Least bend radius, in diameters:</span>
      {Object.entries(bendNames).map(([kind, name]) => (
        <span key={kind}>
          {name}{' '}
          <Figure label={`Least bend of ${name}, diameters`} value={bend[kind] ?? 0} onTake={(v) => onTake(kind, v)} />
        </span>
      ))}
    </div>
  );
}
