import { Button, TextInput } from '@mantine/core';
import { useEffect, useState } from 'react';
import type { Cable, CableLine } from '../api/client';
import { Trouble } from '../api/Trouble';
import type { RoomProps } from '../room/props';
import { TakeOut } from '../room/TakeOut';
import { Why } from '../why/Why';
import classes from './Measure.module.css';

interface CablesProps extends RoomProps {
  /** The cable whose path is picked on the plate. */
  picking?: string;
  onPicking: (id?: string) => void;
}

/** Paths of cables and pipes: points on the model, what the ends need, what to cut. */
export function Cables({ tools, data, picking, onPicking }: CablesProps) {
  const cables = data.build.cables ?? [];
  const add = () =>
    tools.edit
      .mutateAsync([
        {
          op: 'cable',
          cable: { name: 'New cable', points: [], start: '', end: '', leaflet: '', diameter: '' },
        },
      ])
      .then(
        (next) => onPicking(next.build.cables?.at(-1)?.id),
        () => undefined,
      );
  return (
    <section aria-label="Cables and pipes" className={classes.stack}>
      {cables.length === 0 && (
        <p>
          Lay a cable out on the model: pick its path on the plate or type the points you measured. You get the length
          to cut, and whether the leaflet's length is right.
        </p>
      )}
      {cables.map((c) => {
        const line = data.plan.cables.find((l) => l.id === c.id);
        return (
          line && (
            <CableCard
              key={c.id}
              cable={c}
              line={line}
              tools={tools}
              picking={picking === c.id}
              onPicking={onPicking}
            />
          )
        );
      })}
      <div>
        <Button size="xs" variant="default" onClick={add}>
          New cable or pipe
        </Button>
      </div>
    </section>
  );
}

/** A cable as its fields hold it, which is what an edit sends. */
export const edited = (c: Cable) => ({
  id: c.id,
  name: c.name,
  points: c.points,
  start: String(c.startMm),
  end: String(c.endMm),
  leaflet: c.leafletMm ? String(c.leafletMm) : '',
  diameter: c.diameter?.typed ?? '',
});

interface CardProps {
  cable: Cable;
  line: CableLine;
  tools: RoomProps['tools'];
  picking: boolean;
  onPicking: (id?: string) => void;
}

function CableCard({ cable, line, tools, picking, onPicking }: CardProps) {
  const [typed, setTyped] = useState(edited(cable));
  const [error, setError] = useState<unknown>();
  useEffect(() => setTyped(edited(cable)), [cable]);
  const keep = (next: ReturnType<typeof edited>) => {
    if (JSON.stringify(next) === JSON.stringify(edited(cable))) {
      return;
    }
    tools.edit.mutateAsync([{ op: 'cable', cable: next }]).then(() => setError(undefined), setError);
  };
  const field = (key: 'name' | 'start' | 'end' | 'leaflet' | 'diameter', label: string) => (
    <TextInput
      size="xs"
      label={label}
      value={typed[key]}
      onChange={(e) => setTyped({ ...typed, [key]: e.currentTarget.value })}
      onBlur={() => keep(typed)}
      onKeyDown={(e) => e.key === 'Enter' && keep(typed)}
    />
  );
  const point = (i: number, axis: number, value: string) => {
    const v = Number(value.replace(',', '.'));
    return typed.points.map((p, k) => (k === i ? p.map((x, a) => (a === axis ? v : x)) : p));
  };
  return (
    <article className={classes.cable} aria-label={cable.name}>
      <div className={classes.headRow}>
        <div className={classes.grow}>{field('name', 'Cable')}</div>
        <div className={classes.cut}>
          <small>cut</small>
          {line.complete ? (
            <Why why={line.why} name={`${cable.name}, length to cut`}>
              <span className="model">{line.cut}</span>
            </Why>
          ) : (
            <span className={classes.mute}>two points at least</span>
          )}
        </div>
      </div>
      {line.leaflet && <p className={line.differs ? classes.told : undefined}>{line.leaflet}</p>}
      {line.complete && (
        <p className={classes.mute}>
          Path {line.path}
          {line.bend && (
            <>
              , tightest bend{' '}
              <Why why={line.bendWhy} name="Tightest bend">
                {line.bend}
              </Why>
            </>
          )}
          , <span className="real">{line.full} at full size</span>.{line.advice && ` ${line.advice}.`}
        </p>
      )}
      <div className={classes.need}>
        {field('start', 'First end needs, mm')}
        {field('end', 'Last end needs, mm')}
        {field('leaflet', 'Leaflet says, mm')}
        {field('diameter', 'Diameter, real')}
      </div>
      <details open={picking || undefined}>
        <summary>{cable.points.length} points on the model: x forward, y left, z up, mm</summary>
        <table className={classes.table}>
          <tbody>
            {typed.points.map((p, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a point is its place in the path
              <tr key={i}>
                <th>{i + 1}</th>
                {p.map((v, axis) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: three axes
                  <td key={axis}>
                    <input
                      className={classes.figure}
                      aria-label={`Point ${i + 1}, ${'xyz'[axis]} in mm`}
                      defaultValue={v}
                      key={v}
                      onBlur={(e) => keep({ ...typed, points: point(i, axis, e.target.value) })}
                    />
                  </td>
                ))}
                <td>
                  <TakeOut
                    what={`point ${i + 1}`}
                    inRow
                    onTake={() => keep({ ...typed, points: typed.points.filter((_, k) => k !== i) })}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <button
          type="button"
          className="word"
          onClick={() => keep({ ...typed, points: [...typed.points, typed.points.at(-1) ?? [0, 0, 0]] })}
        >
          Add a point by hand
        </button>
      </details>
      <div className={classes.acts}>
        <Button
          size="compact-sm"
          variant={picking ? 'filled' : 'default'}
          aria-pressed={picking}
          onClick={() => onPicking(picking ? undefined : cable.id)}
        >
          {picking ? 'Picking: click along the plate, press here when done' : 'Pick points on the plate'}
        </Button>
        <TakeOut what={cable.name} onTake={() => tools.edit.mutate([{ op: 'dropCable', text: cable.id }])} />
      </div>
      <Trouble error={error} />
    </article>
  );
}
