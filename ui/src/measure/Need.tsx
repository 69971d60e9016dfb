import { Button, Checkbox, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import { Trouble } from '../api/Trouble';
import { DrillAnswer, RopeAnswer, StockAnswer } from './Answers';
import classes from './Measure.module.css';
import { useNeed } from './useMeasure';

const wants: Record<string, { label: string; size: string; second?: string; length?: string; bend?: boolean }> = {
  any: { label: 'anything', size: 'Size, real' },
  wire: { label: 'wire', size: 'Diameter, real', bend: true },
  rod: { label: 'rod', size: 'Diameter, real', bend: true },
  tube: { label: 'tube', size: 'Diameter, real', second: 'Bore, real' },
  sheet: { label: 'sheet, laminate', size: 'Thickness, real' },
  strip: { label: 'strip', size: 'Thickness, real', second: 'Width, real' },
  mesh: { label: 'mesh', size: 'Opening, real', second: 'Wire, real' },
  thread: { label: 'thread', size: 'Diameter, real', bend: true },
  rope: { label: 'rope, twisted', size: 'Diameter, real', length: 'Length on the model', bend: true },
  drill: { label: 'hole', size: 'Diameter, real' },
  bolt: { label: 'bolt heads', size: 'Shank, real' },
  rivet: { label: 'rivets', size: 'Shank, real' },
  weld: { label: 'weld beads', size: 'Width of bead, real', length: 'All seams, real' },
  tape: { label: 'tape', size: 'Width, real' },
};

const empty = {
  kind: 'rope',
  size: '',
  second: '',
  length: '',
  bend: '',
  owned: false,
  outer: '',
  count: '',
  metal: false,
};

/** What a real size is made from. */
export function Need({ scale }: { scale: string }) {
  const [q, setQ] = useState({ ...empty, size: '28 mm' });
  const want = wants[q.kind] ?? { label: q.kind, size: 'Size, real' };
  const { stock, rope, drill } = useNeed({ ...q, count: Number.parseInt(q.count, 10) || 1, scale });
  const asked = q.kind === 'rope' ? rope : q.kind === 'drill' ? drill : stock;
  const text = (key: 'size' | 'second' | 'length' | 'bend' | 'outer' | 'count', label: string, placeholder = '') => (
    <TextInput
      size="xs"
      label={label}
      placeholder={placeholder}
      value={q[key]}
      onChange={(e) => setQ({ ...q, [key]: e.currentTarget.value })}
    />
  );
  return (
    <form
      className={classes.stack}
      aria-label="What do I need"
      onSubmit={(e) => {
        e.preventDefault();
        asked.mutate();
      }}
    >
      <div className={classes.need}>
        <Select
          size="xs"
          label="I need"
          data={Object.entries(wants).map(([value, w]) => ({ value, label: w.label }))}
          value={q.kind}
          allowDeselect={false}
          onChange={(kind) => kind && setQ({ ...empty, owned: q.owned, kind })}
        />
        {text('size', want.size, '28 mm')}
        {want.second && text('second', want.second)}
        {want.length && text('length', want.length, q.kind === 'weld' ? '6 m' : '100 mm')}
        {want.bend && text('bend', 'Tightest bend, model', 'radius, mm')}
        {q.kind === 'drill' && text('outer', 'Bored from, model', 'outer diameter')}
        {q.kind === 'drill' && text('count', 'How many', '1')}
      </div>
      <div className={classes.headRow}>
        <Checkbox
          size="xs"
          label="Only what I own"
          checked={q.owned}
          onChange={(e) => setQ({ ...q, owned: e.currentTarget.checked })}
        />
        {q.kind === 'drill' && (
          <Checkbox
            size="xs"
            label="It is metal"
            checked={q.metal}
            onChange={(e) => setQ({ ...q, metal: e.currentTarget.checked })}
          />
        )}
        <span className={classes.gap} />
        <Button type="submit" size="xs" loading={asked.isPending}>
          Look it up
        </Button>
      </div>
      <Trouble error={asked.error} />
      {q.kind === 'rope' && rope.data && <RopeAnswer answer={rope.data} />}
      {q.kind === 'drill' && drill.data && <DrillAnswer answer={drill.data} />}
      {q.kind !== 'rope' && q.kind !== 'drill' && stock.data && <StockAnswer answer={stock.data} />}
    </form>
  );
}
