import { Button, NumberInput, Select } from '@mantine/core';
import { useState } from 'react';
import type { Body } from '../api/client';
import { Cell } from '../measure/Cell';
import type { RoomProps } from '../room/props';
import { TakeOut } from '../room/TakeOut';
import classes from './Form.module.css';
import { type List, numbers, replaced } from './parts';
import { onView, type Point } from './project';
import { orRefuse, read } from './read';
import type { FormWork } from './useFormWork';
import { useGrips } from './useGrips';

export function PartSheet({
  list,
  part,
  body,
  data,
  work,
}: {
  list: List;
  part: Record<string, unknown>;
  body: Body;
  data: RoomProps['data'];
  work: FormWork;
}) {
  const id = String(part.id);
  const set = (change: object) => work.setBody(replaced(body, list, id, change)).then(orRefuse);
  const side: 'top' | 'left' = list === 'turrets' ? 'top' : 'left';
  const grips = useGrips(data.build.id, list === 'fittings' ? undefined : id, data.revision);
  const outline = grips.data?.find((g) => g.side === side);
  const points = (outline?.real ?? []) as Point[];
  const editable = points.length - (outline?.loose ?? 0);
  const put = (next: Point[]) => {
    const view = data.plan.views.find((v) => v.side === side);
    if (view) {
      // Seen on the plate, also when it is refused.
      work.setGhost({ part: id, side, points: next.map((p) => onView(view, data.build.scale, p)) });
    }
    return work.take([{ op: 'drag', drag: { part: id, side, points: next } }]);
  };
  return (
    <section className={classes.sheet} aria-label={`Numbers of ${id}`}>
      <h3>
        {data.plan.pieces[id] ?? id}{' '}
        <TakeOut
          what={data.plan.pieces[id] ?? id}
          onTake={() => work.setBody(replaced(body, list, id, null)).then(() => work.setPart())}
        />
      </h3>
      <div className={classes.numbers}>
        {numbers[list].map(([key, label]) => (
          <div className={classes.number} key={key}>
            {label}
            <Cell
              label={`${id}: ${label}`}
              value={String(part[key] ?? 0)}
              align="right"
              onTake={async (t) => set({ [key]: await read(work, key, t) })}
              column={`${id} numbers`}
            />
          </div>
        ))}
        {list === 'fittings' &&
          (part.size as number[]).map((v, i) => (
            <div className={classes.number} key={['length', 'width', 'height'][i]}>
              {['length', 'width', 'height'][i]}
              <Cell
                label={`${id}: ${['length', 'width', 'height'][i]}`}
                value={String(v)}
                align="right"
                onTake={async (t) => {
                  const mm = await work.place(t);
                  return set({ size: (part.size as number[]).map((o, k) => (k === i ? mm : o)) });
                }}
                column={`${id} numbers`}
              />
            </div>
          ))}
        {list === 'fittings' &&
          (part.at as number[]).map((v, i) => (
            <div className={classes.number} key={'xyz'[i]}>
              {['x, forward', 'y, to the left', 'z, up'][i]}
              <Cell
                label={`${id}: ${'xyz'[i]}`}
                value={String(v)}
                align="right"
                onTake={async (t) => {
                  const mm = await work.place(t);
                  return set({ at: (part.at as number[]).map((o, k) => (k === i ? mm : o)) });
                }}
                column={`${id} numbers`}
              />
            </div>
          ))}
        {list === 'fittings' && (
          <label>
            on both sides
            <input
              type="checkbox"
              checked={Boolean(part.mirror)}
              onChange={(e) => set({ mirror: e.currentTarget.checked }).catch(() => {})}
            />
          </label>
        )}
        {list === 'turrets' && (
          <label>
            round, cast
            <input
              type="checkbox"
              checked={Boolean(part.round)}
              onChange={(e) => set({ round: e.currentTarget.checked }).catch(() => {})}
            />
          </label>
        )}
      </div>
      {outline && points.length > 0 && (
        <table className={classes.points}>
          <caption>
            {list === 'turrets' ? 'Plan, its left half, and the ring’s centre' : 'Points of the side view'}, real mm
          </caption>
          <thead>
            <tr>
              <th scope="col">point</th>
              <th scope="col">x</th>
              <th scope="col">{side === 'top' ? 'y' : 'z'}</th>
              <th scope="col" />
            </tr>
          </thead>
          <tbody>
            {points.map((p, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a point is its place in the outline
              <tr key={i}>
                <th scope="row">{i < editable ? i + 1 : list === 'turrets' ? 'ring' : i + 1}</th>
                {([0, 1] as const).map((k) => (
                  <td key={k}>
                    <Cell
                      label={`${id}: point ${i + 1} ${k ? (side === 'top' ? 'y' : 'z') : 'x'}`}
                      value={String(Math.round(p[k] * 10) / 10)}
                      align="right"
                      column={`${id} ${k}`}
                      onTake={async (t) => {
                        const mm = await work.place(t);
                        return orRefuse(await put(points.map((q, n) => (n === i ? (k ? [q[0], mm] : [mm, q[1]]) : q))));
                      }}
                    />
                  </td>
                ))}
                <td>
                  {i < editable && (
                    <>
                      <button
                        type="button"
                        className="word"
                        aria-label={`Add a point after point ${i + 1}`}
                        onClick={() => {
                          const q = points[(i + 1) % editable] ?? p;
                          put([
                            ...points.slice(0, i + 1),
                            [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2],
                            ...points.slice(i + 1),
                          ]);
                        }}
                      >
                        +
                      </button>{' '}
                      <TakeOut what={`point ${i + 1}`} inRow onTake={() => put(points.filter((_, n) => n !== i))} />
                    </>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

/** What happened to a part. */
export function DamageSheet({ body, part, work }: { body: Body; part: string; work: FormWork }) {
  const [side, setSide] = useState<string | null>('left');
  const [kind, setKind] = useState<string | null>('missing');
  const [section, setSection] = useState<number | string>(1);
  const mine = (body.damage ?? []).map((d, i) => ({ d, i })).filter(({ d }) => d.part === part);
  return (
    <section className={classes.sheet} aria-label={`Damage to ${part}`}>
      <h3>Damage</h3>
      {mine.map(({ d, i }) => (
        <p key={i}>
          {d.side} section {d.section} {d.kind}
          {d.kind === 'bent' ? ` by ${d.by} mm` : ''}{' '}
          <button
            type="button"
            className="word"
            onClick={() => work.setBody({ ...body, damage: (body.damage ?? []).filter((_, k) => k !== i) })}
          >
            mend
          </button>
        </p>
      ))}
      <div className={classes.line}>
        <Select
          aria-label="Side"
          data={['left', 'right']}
          value={side}
          onChange={setSide}
          w={90}
          allowDeselect={false}
        />
        <NumberInput
          aria-label="Section from the front"
          value={section}
          onChange={setSection}
          min={1}
          max={40}
          w={80}
        />
        <Select
          aria-label="Damage"
          data={['missing', 'bent']}
          value={kind}
          onChange={setKind}
          w={110}
          allowDeselect={false}
        />
        <Button
          variant="default"
          onClick={() =>
            work.setBody({
              ...body,
              damage: [
                ...(body.damage ?? []),
                {
                  part,
                  side: side === 'right' ? 'right' : 'left',
                  section: Number(section),
                  kind: kind === 'bent' ? 'bent' : 'missing',
                  ...(kind === 'bent' ? { by: 60 } : {}),
                },
              ],
            })
          }
        >
          Add
        </Button>
      </div>
    </section>
  );
}
