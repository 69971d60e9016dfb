import { Button, Checkbox, Select, TextInput } from '@mantine/core';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import {
  api,
  ask,
  type DrillAnswer as DrillAnswerOf,
  type RopeAnswer as RopeAnswerOf,
  type StockAnswer as StockAnswerOf,
  type Stocked,
  type Workshop,
} from '../api/client';
import { Trouble } from '../api/Trouble';
import { useWorkshop } from '../api/useWorkshop';
import { Why } from '../why/Why';
import { Facts } from './Facts';
import classes from './Measure.module.css';
import { useStock } from './useMeasure';

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

/** What a size is made from, and the table it is looked up in. */
export function StockRoom({ scale }: { scale: string }) {
  const [view, setView] = useState<'need' | 'table'>('need');
  return (
    <section aria-label="Stock" className={classes.stack}>
      <div className={classes.headRow}>
        <button type="button" className={classes.tab} aria-pressed={view === 'need'} onClick={() => setView('need')}>
          What do I need?
        </button>
        <button type="button" className={classes.tab} aria-pressed={view === 'table'} onClick={() => setView('table')}>
          Table and what I own
        </button>
      </div>
      <div hidden={view !== 'need'}>
        <Need scale={scale} />
      </div>
      <div hidden={view !== 'table'}>
        <Table />
      </div>
    </section>
  );
}

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

function Need({ scale }: { scale: string }) {
  const [q, setQ] = useState({ ...empty, size: '28 mm' });
  const want = wants[q.kind] ?? { label: q.kind, size: 'Size, real' };
  const stock = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/calc/stock', {
          body: { kind: q.kind, size: q.size, second: q.second, length: q.length, bend: q.bend, scale, owned: q.owned },
        }),
      ),
  });
  const rope = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/calc/rope', {
          body: { diameter: q.size, length: q.length, bend: q.bend, scale, owned: q.owned },
        }),
      ),
  });
  const drill = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/calc/drill', {
          body: {
            hole: q.size,
            outer: q.outer,
            count: Number.parseInt(q.count, 10) || 1,
            metal: q.metal,
            scale,
            owned: q.owned,
          },
        }),
      ),
  });
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

const Mine = ({ item }: { item: { owned: boolean } }) =>
  item.owned ? <span className={classes.mine}>yours</span> : null;

const percent = (x: number) => `${x > 0 ? '+' : x < 0 ? '−' : ''}${Math.abs(x).toFixed(1)} %`;

function Wanted({ real, model, why }: { real: string; model: string; why: { formula: string; inputs: string[] } }) {
  return (
    <p className={classes.wanted}>
      <span className="real">{real} real</span> is{' '}
      <Why why={why} name="On the model">
        <span className="model">{model}</span>
      </Why>{' '}
      on the model
    </p>
  );
}

const Notes = ({ notes, cautions }: { notes: string[]; cautions: string[] }) => (
  <>
    {notes.map((n) => (
      <p key={n}>{n}</p>
    ))}
    {cautions.map((c) => (
      <p key={c} className={classes.caution}>
        {c}
      </p>
    ))}
  </>
);

function StockAnswer({ answer }: { answer: StockAnswerOf }) {
  return (
    <div className={classes.stack}>
      <Wanted {...answer} />
      <table className={classes.table}>
        <tbody>
          {answer.groups.map((g) =>
            g.rows.map((r, i) => (
              <tr key={`${g.kind} ${r.item.id} ${r.side}`}>
                <th>{i === 0 ? g.kind : ''}</th>
                <td>{r.side}</td>
                <td className={classes.wrap}>
                  {r.item.name} <Mine item={r.item} />
                </td>
                <td>
                  <Why why={r.why} name={`${r.item.name}, error`}>
                    {percent(r.errorPercent)}
                  </Why>
                </td>
                <td className="real">{r.full}</td>
              </tr>
            )),
          )}
          {[...answer.laminates, ...answer.telescope].map((m, i) => (
            <tr key={m.words}>
              <th>{i === 0 ? (answer.laminates.length ? 'two layers' : 'telescoping') : ''}</th>
              <td />
              <td className={classes.wrap}>
                {m.words} <Mine item={m} />
              </td>
              <td>
                <Why why={m.why} name={m.words}>
                  {percent(m.errorPercent)}
                </Why>
              </td>
              <td className="real">{m.full}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {answer.facts.length > 0 && <Facts facts={answer.facts} />}
      <Notes {...answer} />
    </div>
  );
}

function RopeAnswer({ answer }: { answer: RopeAnswerOf }) {
  return (
    <div className={classes.stack}>
      <Wanted {...answer} />
      <table className={classes.table}>
        <thead>
          <tr>
            <th />
            <th>Twist</th>
            <th>Comes to</th>
            <th>Lay</th>
            <th>Cut each</th>
            <th>Least bend</th>
          </tr>
        </thead>
        <tbody>
          {answer.ways.map((w) => (
            <tr key={`${w.strands} ${w.item.id}`}>
              <td>
                <Strands n={w.strands} />
              </td>
              <td className={classes.wrap}>
                {w.words} <Mine item={w.item} />
                {w.also.length > 0 && <div className={classes.mute}>or {w.also.join(', ')}</div>}
              </td>
              <td>
                <Why why={w.why} name={w.words}>
                  <span className="model">{w.outerMm.toFixed(2)} mm</span>
                </Why>{' '}
                {percent(w.errorPercent)}
              </td>
              <td>
                <Why why={w.why} name={`${w.words}, lay`}>
                  {w.layMm.toFixed(1)} mm
                </Why>
              </td>
              <td>
                {w.layers.map((l) => (
                  <div key={l.circleMm}>
                    {w.layers.length > 1 && `${l.count} × `}
                    <Why why={w.why} name={`${w.words}, strand`}>
                      {l.cutMm.toFixed(1)} mm
                    </Why>
                  </div>
                ))}
              </td>
              <td>
                <Why why={w.why} name={`${w.words}, least bend`}>
                  {w.leastBendMm.toFixed(1)} mm
                </Why>
                {!w.bendsOk && ', kinks'}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Notes {...answer} />
    </div>
  );
}

/** A rope cut across: how its strands lie. */
function Strands({ n }: { n: number }) {
  const ring = (count: number, r: number) =>
    Array.from({ length: count }, (_, i) => [
      r * Math.cos((2 * Math.PI * i) / count - Math.PI / 2),
      r * Math.sin((2 * Math.PI * i) / count - Math.PI / 2),
    ]);
  const at =
    n === 7
      ? [[0, 0], ...ring(6, 1)]
      : n === 19
        ? [[0, 0], ...ring(6, 1), ...ring(12, 2)]
        : ring(n, 0.5 / Math.sin(Math.PI / n));
  const reach = Math.max(...at.map(([x = 0, y = 0]) => Math.hypot(x, y))) + 0.5;
  return (
    <svg width="26" height="26" viewBox={`${-reach} ${-reach} ${2 * reach} ${2 * reach}`} aria-hidden="true">
      {at.map(([x = 0, y = 0]) => (
        <circle key={`${x} ${y}`} cx={x} cy={y} r="0.46" fill="none" stroke="var(--ink)" strokeWidth={reach / 14} />
      ))}
    </svg>
  );
}

function DrillAnswer({ answer }: { answer: DrillAnswerOf }) {
  return (
    <div className={classes.stack}>
      <Wanted {...answer} />
      <table className={classes.table}>
        <tbody>
          {answer.rows.map((r) => (
            <tr key={r.side}>
              <th>{r.side}</th>
              <td>
                {r.item.name} <Mine item={r.item} />
              </td>
              <td>
                <Why why={r.why} name={r.item.name}>
                  {percent(r.errorPercent)}
                </Why>
              </td>
              <td className="real">{r.full}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {answer.steps.length > 1 && (
        <ol className={classes.bores} aria-label="Boring sequence">
          {answer.steps.map((b) => (
            <li key={b.item.id}>
              <Bored bore={b.item.sizeMm} wall={b.wallMm} />
              <span>
                {b.item.name} {b.pilot && '(pilot)'} <Mine item={b.item} />
              </span>
              {b.wallMm >= 0 && (
                <Why why={b.why} name={`${b.item.name}, wall`}>
                  <span className="model">wall {b.wallMm.toFixed(2)} mm</span>
                </Why>
              )}
              {b.warn && <strong role="note">{b.warn}</strong>}
            </li>
          ))}
        </ol>
      )}
      <p>
        Time{' '}
        <Why why={answer.timeWhy} name="Time">
          {answer.time}
        </Why>
      </p>
      <Notes {...answer} />
    </div>
  );
}

function Bored({ bore, wall }: { bore: number; wall: number }) {
  const outer = wall >= 0 ? bore + 2 * wall : bore * 1.6;
  return (
    <svg width="30" height="30" viewBox={`${-outer / 2} ${-outer / 2} ${outer} ${outer}`} aria-hidden="true">
      <circle r={outer / 2.06} fill={wall >= 0 ? 'var(--mute)' : 'none'} />
      <circle r={bore / 2} fill="var(--raised)" stroke="var(--ink)" strokeWidth={outer / 30} />
    </svg>
  );
}

function Table() {
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
                <button type="button" className="word" aria-label={`Take ${i.name} out`} onClick={() => drop(i)}>
                  out
                </button>
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
