import { Button, NumberInput, Select, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Body } from '../api/client';
import { Cell } from '../measure/Cell';
import { said } from '../room/places';
import type { RoomProps } from '../room/props';
import classes from './Form.module.css';
import { onView, type Point } from './project';
import { orRefuse, read } from './read';
import type { FormWork } from './useFormWork';
import { useGrips } from './useGrips';

const outlines = [
  ['tracked', 'tracked, sprocket in front'],
  ['trackedRear', 'tracked, sprocket behind'],
  ['casemate', 'tracked, gun in the hull'],
  ['wheeled', 'four wheels'],
  ['wheeled6', 'six wheels'],
  ['halftrack', 'half-track'],
] as const;

export const outlineChoices = outlines.map(([value, label]) => ({ value, label }));

const lists = ['hulls', 'turrets', 'guns', 'fenders', 'skirts', 'fittings'] as const;
type List = (typeof lists)[number];

const one: Record<List, string> = {
  hulls: 'hull',
  turrets: 'turret',
  guns: 'gun',
  fenders: 'fender',
  skirts: 'skirt',
  fittings: 'fitting',
};

/** The numbers of a part, by its list; points and places have tables of their own. */
const numbers: Record<List, [key: string, label: string][]> = {
  hulls: [
    ['width', 'width'],
    ['inSide', 'sides lean in'],
    ['inNose', 'narrower in front'],
  ],
  turrets: [
    ['height', 'height'],
    ['ring', 'ring, radius'],
    ['inFront', 'front leans'],
    ['inSide', 'sides lean'],
    ['inRear', 'rear leans'],
  ],
  guns: [
    ['y', 'beside the middle'],
    ['elevation', 'elevation, °'],
  ],
  fenders: [
    ['inner', 'inner edge'],
    ['outer', 'outer edge'],
    ['thick', 'thickness'],
  ],
  skirts: [
    ['out', 'outer face'],
    ['thick', 'thickness'],
    ['sections', 'sections'],
  ],
  fittings: [
    ['turn', 'turned, °'],
    ['count', 'count'],
  ],
};

const find = (body: Body, id?: string): [List, Record<string, unknown>] | undefined => {
  for (const list of lists) {
    const part = body[list]?.find((p) => p.id === id);
    if (part) {
      return [list, part as unknown as Record<string, unknown>];
    }
  }
  return undefined;
};

const replaced = (body: Body, list: List, id: string, change: object | null): Body => ({
  ...body,
  [list]: (body[list] ?? []).flatMap((p) => (p.id !== id ? [p] : change ? [{ ...p, ...change }] : [])),
});

/** The vehicle's parts: chosen here or on the plate, shaped by number or by dragging. */
export function BodyRoom({ data, zone, work }: RoomProps & { work: FormWork }) {
  const { body, outline } = data.build;
  const picked = find(body, work.part);
  const kinds = useQuery({
    queryKey: ['fittings'],
    queryFn: () => ask(api.GET('/api/fittings')),
    staleTime: Number.POSITIVE_INFINITY,
  });
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
                {p.id}
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
          {area.uprightCm2.toFixed(1)} upright, {area.slopedCm2.toFixed(1)} sloped, {area.flatCm2.toFixed(1)} flat
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

function PartSheet({
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
        {id}{' '}
        <button
          type="button"
          className="word"
          onClick={() => work.setBody(replaced(body, list, id, null)).then(() => work.setPart())}
        >
          take out
        </button>
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
                      <button
                        type="button"
                        className="word"
                        aria-label={`Take out point ${i + 1}`}
                        onClick={() => put(points.filter((_, n) => n !== i))}
                      >
                        −
                      </button>
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

function DamageSheet({ body, part, work }: { body: Body; part: string; work: FormWork }) {
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
