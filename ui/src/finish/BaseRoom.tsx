import { Button, Select } from '@mantine/core';
import { useState } from 'react';
import { words } from '../api/client';
import { PotSelect } from '../paint/PotSelect';
import { Measure } from '../room/Measure';
import type { RoomProps } from '../room/props';
import roomly from '../room/room.module.css';
import { Why } from '../why/Why';
import classes from './BaseRoom.module.css';
import { FromAbove, FromTheSide } from './GroundDrawing';
import { type Base, type GroundRoom, useGround } from './useGround';

/** What the vehicle stands on: board, imprints, ground, screws, what is strewn. */
export function BaseRoom({ tools, data }: RoomProps) {
  const told = useGround(data.build.id, data.revision);
  if (told.error) {
    return (
      <p role="alert" className="trouble">
        {words(told.error)}
      </p>
    );
  }
  if (!told.data) {
    return <p role="status">Laying the base …</p>;
  }
  const ground = told.data;
  const busy = tools.edit.isPending;
  const shown = (on: boolean) =>
    tools.edit.mutate([{ op: 'school', school: 'display', text: on ? 'on a base of its own' : '' }]);
  return (
    <section aria-label="Base" className={classes.room}>
      {ground.used ? (
        <p className={roomly.mute}>
          Its steps stand on the path.{' '}
          <button type="button" className="word" disabled={busy} onClick={() => shown(false)}>
            Show it on a shelf instead
          </button>
        </p>
      ) : (
        <Elsewhere tools={tools} ground={ground} onBase={() => shown(true)} />
      )}
      {ground.guests.length > 0 && (
        <p role="note" className={roomly.mute}>
          {ground.guests.map((g) => g.name).join(', ')} {ground.guests.length > 1 ? 'stand' : 'stands'} here too. The
          board is laid under this vehicle: give its length and width for all of them, and press their prints in while
          the ground is soft.
        </p>
      )}
      {ground.beside && !ground.beside.gone ? (
        <Footprint ground={ground} />
      ) : (
        <Own tools={tools} data={data} ground={ground} />
      )}
    </section>
  );
}

/** Where a vehicle without a base stands: on a shelf, or on the base of another build. */
function Elsewhere({ tools, ground, onBase }: Pick<RoomProps, 'tools'> & { ground: GroundRoom; onBase: () => void }) {
  const busy = tools.edit.isPending;
  const { beside, wants } = ground;
  const stand = (of: string | undefined) => {
    const { of: _, ...rest } = wants;
    tools.edit.mutate([{ op: 'base', base: of ? { ...rest, of } : rest }]);
  };
  return (
    <>
      <div className={roomly.row}>
        <span>
          {beside && !beside.gone
            ? `It stands on the base of ${beside.name}.`
            : 'It stands on a shelf: no base is on the path.'}
        </span>
        <Button size="xs" disabled={busy} onClick={onBase}>
          Give it a base
        </Button>
        {ground.hosts.length > 0 && (
          <Select
            size="xs"
            w={220}
            aria-label="On the base of another build"
            placeholder="or stand it on the base of …"
            clearable
            disabled={busy}
            data={ground.hosts.map((h) => ({ value: h.id, label: h.name }))}
            value={beside && !beside.gone ? beside.id : null}
            onChange={(v) => stand(v ?? undefined)}
          />
        )}
      </div>
      {beside && (
        <p role="note" className={beside.gone ? 'trouble' : roomly.mute}>
          {beside.words}
        </p>
      )}
    </>
  );
}

/** The room that a vehicle takes on another's base. */
function Footprint({ ground }: { ground: GroundRoom }) {
  const { laid, beside } = ground;
  return (
    <dl className={classes.told}>
      <dt>Room</dt>
      <dd>
        {beside?.longMm.toFixed(1)} × {beside?.wideMm.toFixed(1)} mm for the running gear
      </dd>
      <dt>Imprint</dt>
      <dd>
        {laid.imprintMm.toFixed(2)} mm deep, {laid.printCm2.toFixed(1)} cm² in {laid.prints.length} places, while that
        ground is soft
      </dd>
    </dl>
  );
}

/** A base of its own, drawn, told and asked for. */
function Own({ tools, data, ground }: Pick<RoomProps, 'tools' | 'data'> & { ground: GroundRoom }) {
  return (
    <>
      <FromAbove data={data} ground={ground} />
      <FromTheSide data={data} ground={ground} />
      {ground.laid.words.map((w) => (
        <p key={w} role="note" className={roomly.caution}>
          {w}
        </p>
      ))}
      <Told ground={ground} />
      <Wanted tools={tools} data={data} ground={ground} />
    </>
  );
}

function Told({ ground }: { ground: GroundRoom }) {
  const { laid } = ground;
  return (
    <dl className={classes.told}>
      <dt>Board</dt>
      <dd>
        <Why name="The board" why={laid.why}>
          {laid.longMm.toFixed(1)} × {laid.wideMm.toFixed(1)} mm
        </Why>
        , {laid.spareMm.toFixed(0)} mm round the running gear
      </dd>
      <dt>Imprint</dt>
      <dd>
        {laid.imprintMm.toFixed(2)} mm deep, {laid.printCm2.toFixed(1)} cm² in {laid.prints.length} places
      </dd>
      <dt>Ground</dt>
      <dd>
        <Why name="The ground" why={laid.why}>
          {laid.mixMl.toFixed(0)} ml to mix
        </Why>{' '}
        for {laid.volumeMl.toFixed(0)} ml, in {laid.layers} {laid.layers === 1 ? 'layer' : 'layers'}
      </dd>
      {ground.earth && (
        <>
          <dt>Earth</dt>
          <dd>the same as {ground.earth} on the vehicle</dd>
        </>
      )}
      {laid.screws.map((s, i) => (
        <Screw key={s.alongMm} n={i + 1} all={laid.screws.length} screw={s} />
      ))}
      {laid.grains.map((g) => (
        <Grain key={g} words={g} />
      ))}
    </dl>
  );
}

function Grain({ words: told }: { words: string }) {
  return (
    <>
      <dt>Strewn</dt>
      <dd>{told}</dd>
    </>
  );
}

function Screw({ n, all, screw }: { n: number; all: number; screw: GroundRoom['laid']['screws'][number] }) {
  return (
    <>
      <dt>{all > 1 ? `Screw ${n}` : 'Screw'}</dt>
      <dd>
        {Math.abs(screw.alongMm).toFixed(1)} mm {screw.alongMm < 0 ? 'behind' : 'before'} the middle of the running
        gear, at least {Math.ceil(screw.leastMm)} mm long
      </dd>
    </>
  );
}

function Wanted({ tools, data, ground }: Pick<RoomProps, 'tools' | 'data'> & { ground: GroundRoom }) {
  const { wants } = ground;
  const [kind, setKind] = useState('gravel');
  const take = (change: Partial<Base>) => tools.edit.mutate([{ op: 'base', base: { ...wants, ...change } }]);
  const grain = (i: number, change: Partial<Base['strewn'][number]>) =>
    take({ strewn: wants.strewn.map((g, k) => (k === i ? { ...g, ...change } : g)) });
  return (
    <>
      <div className={classes.numbers}>
        <Measure label="Margin, mm" value={wants.margin} min={0} max={500} onTake={(margin) => take({ margin })} />
        <Measure
          label="Board long, mm"
          value={wants.long ?? 0}
          min={0}
          max={2000}
          empty="as it asks"
          onTake={(long) => take({ long })}
        />
        <Measure
          label="Board wide, mm"
          value={wants.wide ?? 0}
          min={0}
          max={2000}
          empty="as it asks"
          onTake={(wide) => take({ wide })}
        />
        <Measure label="Board thick, mm" value={wants.board} min={1} max={100} onTake={(board) => take({ board })} />
        <Measure label="Turned, °" value={wants.turn ?? 0} min={-360} max={360} onTake={(turn) => take({ turn })} />
        <Measure
          label="Ground deep, mm"
          value={wants.depth}
          min={0}
          max={60}
          step={0.5}
          onTake={(depth) => take({ depth })}
        />
        <Measure
          label="Sinks in, mm real"
          value={wants.sink}
          min={0}
          max={1000}
          step={5}
          onTake={(sink) => take({ sink })}
        />
        <Measure
          label="Screw, mm"
          value={wants.screw}
          min={0}
          max={12}
          step={0.5}
          onTake={(screw) => take({ screw })}
        />
        <Measure label="Screws" value={wants.screws} min={0} max={2} onTake={(screws) => take({ screws })} />
        <Measure label="Figures" value={wants.figures} min={0} max={40} onTake={(figures) => take({ figures })} />
      </div>
      <PotSelect label="Its earth is painted from" value={wants.jar} onTake={(jar) => take({ jar })} />
      <ul className={classes.strewn} aria-label="What is strewn">
        {wants.strewn.map((g, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: two of a kind differ by their place only
          <li key={i}>
            <span>{g.kind}</span>
            <Measure
              label={`Size of ${g.kind}, mm`}
              value={g.mm}
              min={0.01}
              max={50}
              step={0.1}
              onTake={(mm) => grain(i, { mm })}
            />
            <button
              type="button"
              className="word"
              aria-label={`Leave out ${g.kind}`}
              onClick={() => take({ strewn: wants.strewn.filter((_, k) => k !== i) })}
            >
              leave out
            </button>
          </li>
        ))}
        <li>
          <Select
            size="xs"
            label="Strew"
            w={150}
            allowDeselect={false}
            data={ground.kinds.map((k) => ({ value: k.kind, label: k.words }))}
            value={kind}
            onChange={(v) => setKind(v ?? kind)}
          />
          <Button
            size="xs"
            variant="default"
            onClick={() => {
              const most = ground.kinds.find((k) => k.kind === kind)?.mostMm ?? 1;
              take({
                strewn: [
                  ...wants.strewn,
                  { kind: kind as Base['strewn'][number]['kind'], mm: Math.max(0.01, Number((most / 2).toFixed(2))) },
                ],
              });
            }}
          >
            add
          </Button>
        </li>
      </ul>
      {data.build.base && (
        <p>
          <button type="button" className="word" onClick={() => tools.edit.mutate([{ op: 'base' }])}>
            as is usual on its ground
          </button>
        </p>
      )}
    </>
  );
}
