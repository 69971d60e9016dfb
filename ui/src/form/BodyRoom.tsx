import { Button, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { Body } from '../api/client';
import { said } from '../room/places';
import type { RoomProps } from '../room/props';
import classes from './Form.module.css';
import { DamageSheet, PartSheet } from './PartSheet';
import { find, lists, one } from './parts';
import { SmallRelief } from './SmallRelief';
import type { FormWork } from './useFormWork';
import { useFittings } from './useGrips';

const outlines = [
  ['tracked', 'tracked, sprocket in front'],
  ['trackedRear', 'tracked, sprocket behind'],
  ['casemate', 'tracked, gun in the hull'],
  ['wheeled', 'four wheels'],
  ['wheeled6', 'six wheels'],
  ['halftrack', 'half-track'],
] as const;

export const outlineChoices = outlines.map(([value, label]) => ({ value, label }));

/** The vehicle's parts: chosen here or on the plate, shaped by number or by dragging. */
export function BodyRoom({ data, zone, work }: RoomProps & { work: FormWork }) {
  const { body, outline } = data.build;
  const picked = find(body, work.part);
  const kinds = useFittings();
  const area = data.plan.zones.find((z) => z.zone === zone);
  return (
    <section aria-label="Body" className={classes.room}>
      <div className={classes.line}>
        <Select
          label="Begin anew from an outline, fitted to the sizes"
          data={outlineChoices}
          value={outline}
          allowDeselect={false}
          onChange={(v) => v && work.take([{ op: 'outline', text: v }])}
        />
        <Select
          label="Dragging catches every"
          w={120}
          data={['1', '5', '10', '50'].map((v) => ({ value: v, label: `${v} mm` }))}
          value={String(work.step)}
          allowDeselect={false}
          onChange={(v) => v && work.setStep(Number(v))}
        />
      </div>
      <ul className={classes.parts} aria-label="Parts of the body">
        {lists.map((list) => (
          <li key={list}>
            <span className={classes.mute}>{list}</span>
            {(body[list] ?? []).map((p) => (
              <button
                key={p.id}
                type="button"
                className={classes.part}
                aria-pressed={p.id === work.part}
                onClick={() => work.setPart(p.id === work.part ? undefined : p.id)}
              >
                {data.plan.pieces[p.id] ?? p.id}
              </button>
            ))}
            {list !== 'fittings' && (
              <button
                type="button"
                className="word"
                aria-label={`Add a ${one[list]}`}
                onClick={() => work.take([{ op: 'addPart', text: one[list] }])}
              >
                + {one[list]}
              </button>
            )}
          </li>
        ))}
      </ul>
      <AddFitting body={body} zone={zone} kinds={kinds.data?.kinds ?? []} work={work} />
      <SmallRelief data={data} zone={zone} work={work} />
      <ShellSheet data={data} zone={zone} work={work} />
      {picked && work.part && (
        <PartSheet data={data} key={work.part} list={picked[0]} part={picked[1]} body={body} work={work} />
      )}
      {picked && (picked[0] === 'fenders' || picked[0] === 'skirts') && (
        <DamageSheet body={body} part={String(picked[1].id)} work={work} />
      )}
      {area && (
        <p>
          {said(data.plan, area.zone)}: <strong>{area.areaCm2.toFixed(1)} cm²</strong> on the model,{' '}
          {(area.uprightCm2 ?? 0).toFixed(1)} upright, {(area.slopedCm2 ?? 0).toFixed(1)} sloped,{' '}
          {(area.flatCm2 ?? 0).toFixed(1)} flat
        </p>
      )}
    </section>
  );
}

/** An own part as the body, and its faces named by clicking. */
function ShellSheet({ data, zone, work }: Pick<RoomProps, 'data' | 'zone'> & { work: FormWork }) {
  const [name, setName] = useState('hull.left');
  const parts = data.build.parts ?? [];
  const { shell } = data.build.body;
  const naming = work.placing?.op === 'nameFace';
  if (parts.length === 0 && !shell) {
    return <p className={classes.mute}>A mesh of your own can be the body: upload it under Own parts first.</p>;
  }
  return (
    <div className={classes.line}>
      {parts.length > 0 && (
        <Select
          label="An own part as the body"
          placeholder="choose a mesh"
          data={parts.map((p) => ({ value: p.id, label: p.name }))}
          value={null}
          onChange={(v) => v && work.take([{ op: 'shell', text: v }])}
        />
      )}
      {shell && (
        <>
          <TextInput label="Zone of a face" value={name} onChange={(e) => setName(e.currentTarget.value)} w={150} />
          <Button
            variant={naming ? 'filled' : 'default'}
            onClick={() => work.setPlacing(naming ? undefined : { op: 'nameFace', what: name })}
          >
            {naming ? 'click the face on the plate' : 'name a face'}
          </Button>
          <span className={classes.mute}>
            {shell.faces.length} triangles{zone ? `; picked: ${zone}` : ''}
          </span>
        </>
      )}
    </div>
  );
}

function AddFitting({ body, zone, kinds, work }: { body: Body; zone?: string; kinds: string[]; work: FormWork }) {
  const [kind, setKind] = useState<string | null>('box');
  const placing = work.placing?.op === 'addFitting' && work.placing.what === kind;
  return (
    <div className={classes.line}>
      <Select
        label="A fitting"
        data={kinds}
        value={kind}
        allowDeselect={false}
        onChange={setKind}
        w={150}
        comboboxProps={{ withinPortal: true }}
      />
      <Button
        variant={placing ? 'filled' : 'default'}
        onClick={() => work.setPlacing(placing || !kind ? undefined : { op: 'addFitting', what: kind })}
        aria-label="Place the fitting on the plate"
      >
        {placing ? 'click its place on the plate' : 'place it'}
      </Button>
      <span className={classes.mute}>
        {body.fittings?.length ?? 0} on the body{zone ? `; picked: ${zone}` : ''}
      </span>
    </div>
  );
}
