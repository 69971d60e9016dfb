import { Button, NumberInput, Select } from '@mantine/core';
import { useState } from 'react';
import type { GearLine, Link, RunLine, Wheel } from '../api/client';
import { Cell } from '../measure/Cell';
import type { RoomProps } from '../room/props';
import { TakeOut } from '../room/TakeOut';
import { Why } from '../why/Why';
import classes from './Form.module.css';
import { Hands } from './Hands';
import { orRefuse, read } from './read';
import type { FormWork } from './useFormWork';

const kinds = [
  { value: 'sprocket', label: 'sprocket' },
  { value: 'idler', label: 'idler' },
  { value: 'road', label: 'road wheel' },
  { value: 'return', label: 'return roller' },
  { value: 'tyre', label: 'tyre' },
];

const makes = [
  { value: 'band', label: 'one-piece band' },
  { value: 'runs', label: 'link and length' },
  { value: 'single', label: 'single links' },
  { value: 'pinned', label: 'metal links on wire pins' },
];

const short = (n: number) => String(Math.round(n * 10) / 10);

/** Wheels one by one, the track and what it takes, the ground; live while one drags. */
export function GearRoom({ data, work }: RoomProps & { work: FormWork }) {
  const { build, plan } = data;
  const wheels = work.wheels ?? build.wheels;
  const gear = work.live ?? plan.gear;
  const tracked = (plan.gear?.links ?? 0) > 0;
  const setWheel = (i: number, change: Partial<Wheel>) =>
    work.take([{ op: 'wheels', wheels: build.wheels.map((w, k) => (k === i ? { ...w, ...change } : w)) }]);
  return (
    <section aria-label="Running gear" className={classes.room}>
      {gear && tracked && <Told gear={gear} live={Boolean(work.live)} />}
      <table className={classes.wheels} aria-label="Wheels of a side">
        <caption>Real mm: x forward from the middle, z above the ground</caption>
        <thead>
          <tr>
            {['wheel', 'kind', 'x', 'z', 'radius', 'hub', 'teeth', 'steel', 'arm', ''].map((h) => (
              <th key={h} scope="col" data-number={['x', 'z', 'radius', 'hub', 'teeth'].includes(h) || undefined}>
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {wheels.map((w, i) => {
            const name = plan.gear?.names[i] ?? `wheel ${i + 1}`;
            const cell = (key: 'x' | 'z' | 'radius' | 'hub' | 'teeth', value: string) => (
              <td>
                <Cell
                  label={`${name}: ${key}`}
                  value={value}
                  align="right"
                  column={`wheel ${key}`}
                  onFocus={() => work.setWheel(i)}
                  onTake={async (t) => orRefuse(await setWheel(i, { [key]: await read(work, key, t) }))}
                />
              </td>
            );
            return (
              // biome-ignore lint/suspicious/noArrayIndexKey: a wheel is its place in the list
              <tr key={i} data-on={work.wheel === i || undefined}>
                <td>{name}</td>
                <td>
                  <Select
                    aria-label={`${name}: kind`}
                    data={kinds}
                    value={w.kind}
                    size="xs"
                    w={106}
                    allowDeselect={false}
                    onChange={(v) => v && setWheel(i, { kind: v as Wheel['kind'] })}
                  />
                </td>
                {cell('x', short(w.x))}
                {cell('z', short(w.z))}
                {cell('radius', short(w.radius))}
                {cell('hub', w.hub ? short(w.hub) : '')}
                {cell('teeth', w.teeth ? String(w.teeth) : '')}
                <td>
                  <input
                    type="checkbox"
                    aria-label={`${name}: rim of steel`}
                    checked={Boolean(w.steel)}
                    onChange={(e) => setWheel(i, { steel: e.currentTarget.checked })}
                  />
                </td>
                <td>
                  <input
                    type="checkbox"
                    aria-label={`${name}: on an arm`}
                    checked={Boolean(w.arm)}
                    onChange={(e) =>
                      setWheel(i, {
                        // The core knows a common one.
                        arm: e.currentTarget.checked ? { x: 0, z: 0, up: 0, down: 0 } : undefined,
                      })
                    }
                  />
                </td>
                <td>
                  <TakeOut
                    what={name}
                    inRow
                    onTake={() => work.take([{ op: 'wheels', wheels: build.wheels.filter((_, k) => k !== i) }])}
                  />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <div className={classes.line}>
        <Button
          variant="default"
          onClick={() => {
            const last = build.wheels.filter((w) => w.kind === (tracked ? 'return' : 'tyre')).at(-1) ?? build.wheels[0];
            const more = last ? { ...last, x: last.x - 3 * last.radius } : undefined;
            if (more) {
              work.take([{ op: 'wheels', wheels: [...build.wheels, more] }]);
            }
          }}
        >
          Add a {tracked ? 'return roller' : 'wheel'}
        </Button>
        {tracked && <RoadRow wheels={build.wheels} work={work} />}
      </div>
      {wheels[work.wheel ?? -1]?.arm && (
        <ArmSheet index={work.wheel ?? 0} wheels={build.wheels} names={plan.gear?.names ?? []} work={work} />
      )}
      {tracked && <LinkSheet link={build.link} work={work} />}
      {tracked && <GroundSheet ground={(build.ground ?? []) as [number, number][]} work={work} />}
      {gear && tracked && (
        <>
          <Facts
            title="One fewer, one more"
            of={gear.choices.map((c) => ({ name: `${c.links} links`, words: c.words, why: c.why }))}
          />
          <Facts
            title="Sag, span by span"
            of={gear.sags.map((s) => ({
              name: s.between,
              words: `${s.model} on the model, ${s.real} real`,
              why: s.why,
            }))}
          />
          <Facts title="What its make asks for" of={gear.facts} />
          <Facts title="Wheels on the ground" of={gear.arms} />
          <Facts title="Runs, in links" of={gear.runs} />
        </>
      )}
      {plan.gear && <Facts title="Room" of={plan.gear.clearance} />}
      <Hands data={data} />
    </section>
  );
}

function Told({ gear, live }: { gear: GearLine; live: boolean }) {
  return (
    <div className={classes.live} aria-live="polite">
      <Why why={gear.why} name="Links per side">
        <span className={classes.big} data-links={gear.links} data-live={live || undefined}>
          {gear.links}
        </span>
      </Why>
      <span>
        links a side, <span className="model">{gear.slack}</span> slack on a taut loop of {gear.loop}. {gear.verdict}
      </span>
    </div>
  );
}

export function Facts({ title, of }: { title: string; of: RunLine[] }) {
  if (of.length === 0) {
    return null;
  }
  return (
    <div>
      <span className={classes.mute}>{title}</span>
      <ul className={classes.facts} aria-label={title}>
        {of.map((f) => (
          <li key={f.name} data-tight={f.tight || undefined}>
            {f.name}:{' '}
            <Why why={f.why} name={f.name}>
              {f.words}
            </Why>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** All road wheels at once: how many, how far apart, how large. */
function RoadRow({ wheels, work }: { wheels: Wheel[]; work: FormWork }) {
  const road = wheels.filter((w) => w.kind === 'road').sort((a, b) => b.x - a.x);
  const first = road[0];
  const [count, setCount] = useState<number | string>(road.length);
  const [spacing, setSpacing] = useState<number | string>(
    first && road.length > 1 ? Math.round((first.x - (road.at(-1)?.x ?? 0)) / (road.length - 1)) : 700,
  );
  const [diameter, setDiameter] = useState<number | string>(first ? Math.round(2 * first.radius) : 600);
  if (!first) {
    return null;
  }
  const set = () =>
    work.take([{ op: 'row', row: { count: Number(count), spacing: Number(spacing), diameter: Number(diameter) } }]);
  return (
    <>
      <NumberInput label="Road wheels" value={count} onChange={setCount} min={1} max={20} w={92} size="xs" />
      <NumberInput label="spacing, mm" value={spacing} onChange={setSpacing} min={1} w={100} size="xs" />
      <NumberInput label="diameter, mm" value={diameter} onChange={setDiameter} min={1} w={100} size="xs" />
      <Button variant="default" onClick={set}>
        Set in a row
      </Button>
    </>
  );
}

function ArmSheet({ index, wheels, names, work }: { index: number; wheels: Wheel[]; names: string[]; work: FormWork }) {
  const arm = wheels[index]?.arm;
  if (!arm) {
    return null;
  }
  const name = names[index] ?? '';
  const set = (change: object) =>
    work
      .take([{ op: 'wheels', wheels: wheels.map((w, k) => (k === index ? { ...w, arm: { ...arm, ...change } } : w)) }])
      .then(orRefuse);
  const labels = { x: 'pivot ahead', z: 'pivot above', up: 'swings up, °', down: 'and down, °' };
  return (
    <section className={classes.sheet} aria-label={`Arm of ${name}`}>
      <h3>Arm of {name}</h3>
      <div className={classes.numbers}>
        {(Object.keys(labels) as (keyof typeof labels)[]).map((k) => (
          <div className={classes.number} key={k}>
            {labels[k]}
            <Cell
              label={`Arm of ${name}: ${labels[k]}`}
              value={short(arm[k])}
              align="right"
              column="arm"
              onTake={async (t) => set({ [k]: await read(work, k, t) })}
            />
          </div>
        ))}
      </div>
    </section>
  );
}

function LinkSheet({ link, work }: { link: Link; work: FormWork }) {
  const set = (change: Partial<Link>) => work.take([{ op: 'link', link: { ...link, ...change } }]).then(orRefuse);
  const fields: [keyof Link, string][] = [
    ['pitch', 'pitch, real mm'],
    ['width', 'width, real mm'],
    ['surface', 'pin above running face'],
    ['ground', 'pin above ground face'],
    ['supplied', 'links in the kit a side'],
    ['travel', 'idler moves each way'],
    ['minutes', 'minutes a link'],
  ];
  if (link.make === 'pinned') {
    fields.push(['pinMm', 'pin, model mm']);
  }
  if (link.make === 'band') {
    fields.push(['bandMm', 'band joined, model mm']);
  }
  return (
    <section className={classes.sheet} aria-label="Track">
      <h3>Track</h3>
      <Select
        label="Made of"
        data={makes}
        value={link.make || 'single'}
        allowDeselect={false}
        w={230}
        onChange={(v) => v && set({ make: v as Link['make'] }).catch(() => {})}
      />
      <div className={classes.numbers}>
        {fields.map(([key, label]) => (
          <div className={classes.number} key={key}>
            {label}
            <Cell
              label={`Track: ${label}`}
              value={link[key] ? short(Number(link[key])) : ''}
              align="right"
              column="track"
              onTake={async (t) => set({ [key]: await read(work, key, t) })}
            />
          </div>
        ))}
      </div>
    </section>
  );
}

function GroundSheet({ ground, work }: { ground: [number, number][]; work: FormWork }) {
  const set = (next: [number, number][]) => work.take([{ op: 'ground', ground: next }]);
  return (
    <section className={classes.sheet} aria-label="Ground">
      <h3>Ground under the track</h3>
      {ground.length === 0 ? (
        <p>
          Level.{' '}
          <button type="button" className="word" onClick={() => work.take([{ op: 'uneven' }])}>
            make it uneven
          </button>
        </p>
      ) : (
        <>
          <table className={classes.points}>
            <thead>
              <tr>
                <th scope="col">bend</th>
                <th scope="col">x</th>
                <th scope="col">height</th>
                <th scope="col" />
              </tr>
            </thead>
            <tbody>
              {ground.map((p, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: a bend is its place along the ground
                <tr key={i}>
                  <th scope="row">{i + 1}</th>
                  {([0, 1] as const).map((k) => (
                    <td key={k}>
                      <Cell
                        label={`Ground: bend ${i + 1} ${k ? 'height' : 'x'}`}
                        value={short(p[k])}
                        align="right"
                        column={`ground ${k}`}
                        onTake={async (t) => {
                          const mm = await work.place(t);
                          return orRefuse(
                            await set(ground.map((q, n) => (n === i ? (k ? [q[0], mm] : [mm, q[1]]) : q))),
                          );
                        }}
                      />
                    </td>
                  ))}
                  <td>
                    <TakeOut what={`bend ${i + 1}`} inRow onTake={() => set(ground.filter((_, n) => n !== i))} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <p>
            <button
              type="button"
              className="word"
              onClick={() => set([...ground, [(ground.at(-1)?.[0] ?? 0) + 500, 0]])}
            >
              add a bend
            </button>{' '}
            <button type="button" className="word" onClick={() => set([])}>
              level it
            </button>
          </p>
        </>
      )}
    </section>
  );
}
