import { Button, Checkbox, MultiSelect, NumberInput, Select, TextInput } from '@mantine/core';
import { type DragEvent, useState } from 'react';
import { type Kit, type KitPart, type Plan, words } from '../api/client';
import { useLibrary } from '../api/useLibrary';
import { named, partsOf } from '../room/places';
import type { RoomProps } from '../room/props';
import classes from './Order.module.css';

const kinds = [
  '',
  'wheels',
  'tracks',
  'cable',
  'skirt',
  'guard',
  'tool',
  'gun',
  'aerial',
  'stowage',
  'crew',
  'inside',
  'lamp',
];
/** What stays on and what is painted apart, with the reason for each; moved by drag or keys. */
export function PartsRoom({ tools, data }: RoomProps) {
  const kit = data.build.kit ?? {};
  const { edit } = tools;
  const advice = data.plan.advice ?? [];
  const [open, setOpen] = useState<string>();
  const [over, setOver] = useState<string>();
  const [began] = useState((kit.parts ?? []).length === 0);
  const set = (next: Kit) => edit.mutate([{ op: 'kit', kit: next }]);
  const change = (id: string, by: Partial<KitPart>) =>
    set({ ...kit, parts: (kit.parts ?? []).map((p) => (p.id === id ? { ...p, ...by } : p)) });
  // The mended part is whole: what it no longer says is gone.
  const replace = (part: KitPart) =>
    set({ ...kit, parts: (kit.parts ?? []).map((p) => (p.id === part.id ? part : p)) });
  const drop = (to: 'on' | 'off') => (e: DragEvent) => {
    e.preventDefault();
    setOver(undefined);
    const id = e.dataTransfer.getData('text/plain');
    if (id) {
      change(id, { stay: to });
    }
  };
  const pile = (off: boolean) => (
    // biome-ignore lint/a11y/noStaticElementInteractions: a place to drop on; keys move the pieces themselves
    <div
      className={classes.pile}
      data-over={over === (off ? 'off' : 'on') || undefined}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(off ? 'off' : 'on');
      }}
      onDragLeave={() => setOver(undefined)}
      onDrop={drop(off ? 'off' : 'on')}
    >
      <h3>{off ? 'Painted apart' : 'On before paint'}</h3>
      {advice
        .filter((a) => a.off === off)
        .map((a) => {
          const p = (kit.parts ?? []).find((x) => x.id === a.part);
          return (
            // biome-ignore lint/a11y/useSemanticElements: a piece that is dragged, with keys of its own
            <div
              key={a.part}
              role="button"
              tabIndex={0}
              className={classes.piece}
              draggable
              aria-label={`${a.name}: ${off ? 'painted apart' : 'on before paint'}. ${a.reason}`}
              onDragStart={(e) => e.dataTransfer.setData('text/plain', a.part)}
              onClick={() => setOpen(open === a.part ? undefined : a.part)}
              onKeyDown={(e) => {
                if ((e.key === 'ArrowRight' && !off) || (e.key === 'ArrowLeft' && off)) {
                  e.preventDefault();
                  e.stopPropagation();
                  change(a.part, { stay: off ? 'on' : 'off' });
                }
                if (e.key === 'Enter') {
                  setOpen(open === a.part ? undefined : a.part);
                }
              }}
            >
              <span>
                <strong>{a.name}</strong>
                {p?.count && p.count > 1 ? ` × ${p.count}` : ''}{' '}
                {a.rule && <span className={classes.rule}>{a.rule}</span>}
              </span>
              <small>{a.reason}</small>
              {a.own && <small>Moved by you</small>}
              {p?.ordered && <small>{ordered(p)}</small>}
            </div>
          );
        })}
    </div>
  );
  const part = (kit.parts ?? []).find((p) => p.id === open);
  // Those of the open part stand beside it, the others on top.
  const poses = (ofOpen: boolean) =>
    (data.plan.poses ?? [])
      .filter((hint) => (hint.part === open) === ofOpen)
      .map((hint) => (
        <div key={hint.part + hint.reason} role="note" className={classes.trouble}>
          <p>
            <span className={classes.rule}>{hint.rule}: </span>
            {hint.reason}.
          </p>
          <div className={classes.row}>
            {hint.mends.map((m) => (
              <Button key={m.label} size="xs" variant="outline" onClick={() => replace(m.part)}>
                {m.label}
              </Button>
            ))}
          </div>
        </div>
      ));
  const when = [...new Set(advice.map((a) => a.fitted))];
  return (
    <section aria-label="Parts" className={classes.room}>
      <p className={classes.lead}>
        Drag a part to the other side, or stand on it and press ← or →. The reason stays beside it. Click it for what it
        is made of and how it is joined.
      </p>
      {edit.isError && !tools.stale && edit.variables?.some((e) => e.op === 'kit') && (
        <p role="alert" className="trouble">
          {words(edit.error)}
        </p>
      )}
      {poses(false)}
      <div className={classes.two}>
        {pile(false)}
        {pile(true)}
      </div>
      {poses(true)}
      {part && (
        <PartForm
          key={JSON.stringify(part)}
          part={part}
          kit={kit}
          plan={data.plan}
          onTake={(p) => change(part.id, p)}
          onDrop={() => set({ ...kit, parts: (kit.parts ?? []).filter((p) => p.id !== part.id) })}
        />
      )}
      <div>
        <h3>Fitted when</h3>
        <ul className={classes.words}>
          {when.map((w) => (
            <li key={w}>
              <strong>{w}:</strong>{' '}
              {advice
                .filter((a) => a.fitted === w)
                .map((a) => a.name)
                .join(', ')}
            </li>
          ))}
        </ul>
      </div>
      <details className={classes.fold} open={began}>
        <summary>Add a part</summary>
        <PartForm
          part={{ id: '', name: '', material: 'plastic', assembly: 'hull' }}
          kit={kit}
          plan={data.plan}
          act="Add the part"
          onTake={(p) => set({ ...kit, parts: [...(kit.parts ?? []), { ...(p as KitPart), id: crypto.randomUUID() }] })}
        />
      </details>
    </section>
  );
}

function ordered(p: KitPart): string {
  const o = p.ordered;
  if (!o) {
    return '';
  }
  if (o.fault) {
    return `Arrived, but ${o.fault}`;
  }
  if (o.arrived) {
    return (o.checked ?? []).length >= 3 ? `Arrived ${o.arrived}, checked` : `Arrived ${o.arrived}: check it`;
  }
  return `Expected ${o.expected}`;
}

interface PartFormProps {
  part: KitPart;
  kit: Kit;
  plan: Plan;
  act?: string;
  onTake: (part: Partial<KitPart>) => void;
  onDrop?: () => void;
}

function PartForm({ part, kit, plan, act = 'Keep it', onTake, onDrop }: PartFormProps) {
  const library = useLibrary();
  const [p, setP] = useState(part);
  const set = (by: Partial<KitPart>) => setP({ ...p, ...by });
  const o = p.ordered;
  const decals = kit.decals ?? [];
  const others = [
    { value: '', label: 'nothing' },
    ...(kit.parts ?? []).filter((x) => x.id !== p.id).map((x) => ({ value: x.id, label: x.name })),
  ];
  const bodies = partsOf(plan);
  // What an edit of the body took away is still shown where the part names it.
  const known = (own?: string) => named(plan, own && !bodies.includes(own) ? [...bodies, own] : bodies);
  const shaded = named(plan, [...new Set([...Object.keys(plan.places), ...(p.shadows ?? [])])].sort());
  const asks = (p.agrees ?? []).find((a) => a.when === p.pose);
  const ask = (next?: NonNullable<KitPart['agrees']>[number]) =>
    set({ agrees: [...(p.agrees ?? []).filter((a) => a.when !== p.pose), ...(next ? [next] : [])] });
  return (
    <form
      className={classes.room}
      aria-label={part.name ? `The part ${part.name}` : 'A new part'}
      onSubmit={(e) => {
        e.preventDefault();
        onTake(p);
        if (!part.id) {
          setP(part);
        }
      }}
    >
      <div className={classes.row}>
        <TextInput label="Part" value={p.name} onChange={(e) => set({ name: e.currentTarget.value })} />
        <NumberInput
          label="Count"
          w={80}
          min={1}
          value={p.count ?? 1}
          onChange={(v) => set({ count: Number(v) || 1 })}
        />
        <Select
          label="Of"
          w={110}
          data={library.data?.materials ?? [p.material]}
          value={p.material}
          allowDeselect={false}
          onChange={(v) => set({ material: v ?? 'plastic' })}
        />
        <Select
          label="Belongs to"
          w={110}
          data={known(p.assembly)}
          value={p.assembly}
          allowDeselect={false}
          onChange={(v) => set({ assembly: v ?? 'hull' })}
        />
        <Select
          label="It is"
          w={110}
          data={kinds.map((k) => ({ value: k, label: k || 'a part' }))}
          value={p.kind ?? ''}
          onChange={(v) => set({ kind: v || undefined })}
        />
        <Select
          label="Joint"
          w={120}
          data={[{ value: '', label: 'as usual' }, 'glued', 'removable', 'press']}
          value={p.joint ?? ''}
          onChange={(v) => set({ joint: v || undefined })}
        />
        <Select
          label="Side"
          w={90}
          data={[{ value: '', label: 'either' }, 'left', 'right']}
          value={p.side ?? ''}
          onChange={(v) => set({ side: v || undefined })}
        />
      </div>
      <div className={classes.row}>
        <Select
          label="Only before this is closed"
          w={170}
          placeholder="at any time"
          clearable
          data={known(p.before)}
          value={p.before ?? null}
          onChange={(v) => set({ before: v ?? undefined })}
        />
        <MultiSelect
          label="Shadows"
          w={190}
          searchable
          placeholder={p.shadows?.length ? undefined : 'nothing'}
          data={shaded}
          value={p.shadows ?? []}
          onChange={(shadows) => set({ shadows: shadows.length ? shadows : undefined })}
        />
        <Select
          label="A decal beneath it"
          w={160}
          data={[{ value: '', label: 'none' }, ...decals.map((d) => ({ value: d.id, label: d.name }))]}
          value={p.over?.[0] ?? ''}
          onChange={(v) => set({ over: v ? [v] : undefined })}
        />
        <Select
          label="It guards"
          w={150}
          data={others}
          value={p.guards ?? ''}
          onChange={(v) => set({ guards: v || undefined })}
        />
        <Select
          label="It holds"
          w={150}
          data={others}
          value={p.holds?.[0] ?? ''}
          onChange={(v) => set({ holds: v ? [v] : undefined })}
        />
        <TextInput
          label="Pose"
          w={140}
          value={p.pose ?? ''}
          onChange={(e) => set({ pose: e.currentTarget.value || undefined })}
        />
        {p.pose && (
          <>
            <Select
              label={`When ${p.pose}, it asks of`}
              w={170}
              data={others}
              value={asks?.part ?? ''}
              onChange={(v) => ask(v ? { when: p.pose ?? '', part: v, pose: asks?.pose } : undefined)}
            />
            {asks && (
              <TextInput
                label="to be"
                placeholder="there"
                w={120}
                value={asks.pose ?? ''}
                onChange={(e) => ask({ ...asks, pose: e.currentTarget.value || undefined, meant: undefined })}
              />
            )}
          </>
        )}
        <Checkbox
          label="is forced on"
          checked={p.forced ?? false}
          onChange={(e) => set({ forced: e.currentTarget.checked || undefined })}
        />
      </div>
      <div className={classes.row}>
        <TextInput
          label="Ordered, expected on"
          placeholder="2026-12-01"
          w={150}
          value={o?.expected ?? ''}
          onChange={(e) =>
            set({ ordered: e.currentTarget.value ? { ...o, expected: e.currentTarget.value } : undefined })
          }
        />
        {o && (
          <>
            <TextInput
              label="Arrived on"
              placeholder="not yet"
              w={120}
              value={o.arrived ?? ''}
              onChange={(e) => set({ ordered: { ...o, arrived: e.currentTarget.value || undefined } })}
            />
            {(library.data?.arrival ?? []).map((check) => (
              <Checkbox
                key={check}
                label={check}
                checked={(o.checked ?? []).includes(check)}
                onChange={(e) =>
                  set({
                    ordered: {
                      ...o,
                      checked: e.currentTarget.checked
                        ? [...(o.checked ?? []), check]
                        : (o.checked ?? []).filter((c) => c !== check),
                    },
                  })
                }
              />
            ))}
            <TextInput
              label="What is wrong with it"
              value={o.fault ?? ''}
              onChange={(e) => set({ ordered: { ...o, fault: e.currentTarget.value || undefined } })}
            />
          </>
        )}
      </div>
      <div className={classes.row}>
        <Button type="submit" size="xs" disabled={!p.name.trim()}>
          {act}
        </Button>
        {onDrop && (
          <button type="button" className="word" onClick={onDrop}>
            take it out
          </button>
        )}
        {p.stay && (
          <button type="button" className="word" onClick={() => onTake({ stay: undefined })}>
            as suggested
          </button>
        )}
      </div>
    </form>
  );
}
