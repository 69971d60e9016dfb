import { Button } from '@mantine/core';
import { type DragEvent, useState } from 'react';
import { type Kit, type KitPart, type Schemas, words } from '../api/client';
import type { RoomProps } from '../room/props';
import { Insides } from './Insides';
import classes from './Order.module.css';
import { PartForm } from './PartForm';
import { Supplies } from './Supplies';

type Hint = Schemas['PoseHint'];

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
  // What is mended is whole: what it no longer says is gone.
  const mend = (m: Hint['mends'][number]) =>
    set({
      ...kit,
      parts: kit.parts?.map((p) => (p.id === m.part?.id ? m.part : p)),
      features: kit.features?.map((f) => (f.id === m.feature?.id ? m.feature : f)),
      insides: m.inside ? [...(kit.insides ?? []).filter((i) => i.part !== m.inside?.part), m.inside] : kit.insides,
    });
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
              <Button key={m.label} size="xs" variant="outline" onClick={() => mend(m)}>
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
        Drag a part to the other side, or stand on it and press ← or →. The reason stays beside it. Click it for its
        material and how it is joined.
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
          layers={data.build.layers}
          colours={data.build.scheme.colours}
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
      {(kit.parts ?? []).some((p) => p.struck) && (
        <p>
          <strong>Struck off:</strong>{' '}
          {(kit.parts ?? [])
            .filter((p) => p.struck)
            .map((p) => (
              <span key={p.id}>
                {p.name}{' '}
                <button
                  type="button"
                  className="word"
                  aria-label={`Put ${p.name} back on the list`}
                  onClick={() => change(p.id, { struck: undefined })}
                >
                  put it back
                </button>{' '}
              </span>
            ))}
        </p>
      )}
      <Insides kit={kit} plan={data.plan} onTake={(insides) => set({ ...kit, insides })} />
      <Supplies tools={tools} data={data} onDetail={change} />
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
  const met = { repair: 'it is repaired', replace: 'it is replaced', spare: 'one of the spares is taken', '': '' };
  if (o.fault) {
    return `Arrived, but ${o.fault}${o.remedy ? `: ${met[o.remedy]}` : ''}`;
  }
  if (o.arrived) {
    return (o.checked ?? []).length >= 3 ? `Arrived ${o.arrived}, checked` : `Arrived ${o.arrived}: check it`;
  }
  return `Expected ${o.expected}`;
}
