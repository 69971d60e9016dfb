import { Button, Checkbox, MultiSelect, NumberInput, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { Kit, KitPart, Layer, Plan } from '../api/client';
import { useLibrary } from '../api/useLibrary';
import { isScheme, named, partsOf } from '../room/places';
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

interface PartFormProps {
  part: KitPart;
  kit: Kit;
  plan: Plan;
  layers?: Layer[];
  colours?: { name: string }[];
  act?: string;
  onTake: (part: Partial<KitPart>) => void;
  onDrop?: () => void;
}

/** All that is known of a part, to be changed. */
export function PartForm({
  part,
  kit,
  plan,
  layers = [],
  colours = [],
  act = 'Keep it',
  onTake,
  onDrop,
}: PartFormProps) {
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
        <Select
          label="Goes on after"
          w={170}
          clearable
          placeholder="as suggested"
          data={layers.flatMap((l) => [
            ...(isScheme(l) ? colours.slice(0, -1) : []).map((c, i) => ({
              value: `${l.id} ${i + 1}`,
              label: `${l.name}: ${c.name}`,
            })),
            { value: l.id, label: l.name },
          ])}
          value={p.late ? [p.late, p.lateTo].filter(Boolean).join(' ') : null}
          onChange={(v) => {
            const [late, colour] = v?.split(' ') ?? [];
            set({ late, lateTo: colour ? Number(colour) : undefined, stay: late ? 'off' : p.stay });
          }}
        />
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
            {o.remedy === 'replace' && (
              <TextInput
                label="Replacement expected on"
                placeholder="2026-12-20"
                w={150}
                value={o.again ?? ''}
                onChange={(e) => set({ ordered: { ...o, again: e.currentTarget.value || undefined } })}
              />
            )}
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
        {onDrop && (
          <button
            type="button"
            className="word"
            title="The version carries it, this model does not"
            onClick={() => onTake({ struck: true })}
          >
            strike it off
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
