import { Button, Checkbox, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import { type Kit, words } from '../api/client';
import { useLibrary } from '../api/useLibrary';
import { Measure } from '../room/Measure';
import { Paint } from '../room/Paint';
import { said } from '../room/places';
import type { RoomProps } from '../room/props';
import roomly from '../room/room.module.css';
import { TakeOut } from '../room/TakeOut';
import classes from './Markings.module.css';
import { PotSelect } from './PotSelect';
import { type Decal, type Drawing, type MarkingLine, type PutWork, type Room, useMarkings } from './useMarkings';

interface MarkingsProps extends RoomProps {
  puts: PutWork;
}

/** What is written and drawn on the vehicle: how it looks, how large it is, where it stands. */
export function MarkingsRoom(props: MarkingsProps) {
  const told = useMarkings(props.data.build.id, props.data.revision);
  if (told.error || !told.data) {
    return (
      <p role={told.error ? 'alert' : 'status'} className={told.error ? 'trouble' : undefined}>
        {told.error ? words(told.error) : 'Laying the markings out …'}
      </p>
    );
  }
  return <Told {...props} room={told.data} />;
}

function Told({ tools, data, puts, room }: MarkingsProps & { room: Room }) {
  const { edit } = tools;
  const [open, setOpen] = useState<string>();
  const [name, setName] = useState('');
  const fresh = useLibrary().data?.layers.find((k) => k.id === 'decals')?.fresh;
  const kit = data.build.kit ?? {};
  const set = (decals: Kit['decals']) => edit.mutate([{ op: 'kit', kit: { ...kit, decals } }]);
  const change = (id: string, to: Partial<Decal>) => set(kit.decals?.map((d) => (d.id === id ? { ...d, ...to } : d)));
  const worn = room.lines.flatMap((line) => {
    const decal = kit.decals?.find((d) => d.id === line.id);
    return decal ? [{ line, decal }] : [];
  });
  const add = () => {
    const id = crypto.randomUUID();
    const zone = data.plan.zones.find((z) => z.part === 'hull')?.zone ?? data.plan.zones[0]?.zone ?? '';
    const decal = { id, name: name.trim(), zone, drawn: room.fresh, versions: kit.version ? [kit.version] : null };
    edit.mutate([{ op: 'kit', kit: { ...kit, decals: [...(kit.decals ?? []), decal] } }], {
      onSuccess: () => {
        setName('');
        setOpen(id);
      },
    });
  };
  return (
    <section aria-label="Markings" className={roomly.card}>
      {edit.isError && !tools.stale && (
        <p role="alert" className="trouble">
          {words(edit.error)}
        </p>
      )}
      {room.layer ? (
        <p className={roomly.mute}>
          {room.sealed
            ? `Sealed by: ${room.sealed}.`
            : 'Nothing seals them: a wash would creep under their edges. Add a clear coat above them.'}{' '}
          <a
            className={classes.print}
            href={`/api/builds/${data.build.id}/sheets/markings.pdf`}
            target="_blank"
            rel="noreferrer"
          >
            Print them 1:1
          </a>
        </p>
      ) : (
        <div className={roomly.row}>
          <span>No layer puts markings on yet.</span>
          <Button
            size="xs"
            disabled={!fresh}
            onClick={() => fresh && edit.mutate([{ op: 'layers', layers: [{ op: 'insert', layer: fresh }] }])}
          >
            Put them on the path
          </Button>
        </div>
      )}
      <ul className={classes.list} aria-label="Markings of this version">
        {worn.map(({ line, decal }) => (
          <li key={decal.id}>
            <button
              type="button"
              className={classes.line}
              aria-expanded={open === decal.id}
              onClick={() => setOpen(open === decal.id ? undefined : decal.id)}
            >
              <Sign line={line} decal={decal} />
              <span>
                <strong>{decal.name}</strong>
                <small>{summary(line, decal)}</small>
              </span>
            </button>
            {open === decal.id && (
              <Form
                {...{ data, puts, room, line, decal }}
                onChange={(to) => change(decal.id, to)}
                onTakeOut={() => set(kit.decals?.filter((d) => d.id !== decal.id))}
              />
            )}
          </li>
        ))}
        {worn.length === 0 && <li className={roomly.mute}>This version wears none yet.</li>}
      </ul>
      <form
        className={roomly.row}
        onSubmit={(e) => {
          e.preventDefault();
          add();
        }}
      >
        <TextInput
          size="xs"
          aria-label="Name of a new marking"
          placeholder="hull number, sign …"
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
        />
        <Button size="xs" type="submit" variant="default" disabled={!name.trim() || edit.isPending}>
          Add a marking
        </Button>
      </form>
    </section>
  );
}

function summary(line: MarkingLine, decal: Decal): string {
  if (!decal.drawn) {
    return 'not drawn yet';
  }
  const n = decal.places?.length ?? 0;
  const where = n === 0 ? 'not placed yet' : `in ${n} ${n === 1 ? 'place' : 'places'}`;
  const lost = line.lost > 0 ? `, ${line.lost} beside the body: place it again` : '';
  return `${line.modelMm.toFixed(1)} × ${line.highMm.toFixed(1)} mm on the model, ${where}${lost}`;
}

/** A marking as it looks, small. */
function Sign({ line, decal }: { line: MarkingLine; decal: Decal }) {
  const { figure } = line;
  const { drawn } = decal;
  if (!drawn) {
    return <span className={classes.blank} />;
  }
  const edge = (2 * line.edgeMm * line.modelMm) / line.realMm;
  const [w, h] = [figure.wideMm * 1.1 + edge, figure.highMm * 1.2 + edge];
  const points = (l: number[][]) => l.map(([x, y]) => `${x},${-(y ?? 0)}`).join(' ');
  const coats = [...(edge > 0 ? [{ hex: drawn.edge, more: edge }] : []), { hex: drawn.hex, more: 0 }];
  return (
    <svg
      className={classes.sign}
      viewBox={`${-w / 2} ${-h / 2} ${w} ${h}`}
      role="img"
      aria-label={`${decal.name}, drawn`}
    >
      {coats.map(({ hex, more }) => (
        <g key={more} stroke={hex} strokeLinejoin="round" strokeLinecap="round" fill="none">
          {figure.rings.map((r) => (
            <polygon key={points(r)} points={points(r)} fill={hex} strokeWidth={more} />
          ))}
          {figure.strokes.map((s) => (
            <polyline key={points(s)} points={points(s)} strokeWidth={figure.strokeMm + more} />
          ))}
        </g>
      ))}
    </svg>
  );
}

interface FormProps extends Pick<MarkingsProps, 'data' | 'puts'> {
  room: Room;
  line: MarkingLine;
  decal: Decal;
  onChange: (to: Partial<Decal>) => void;
  onTakeOut: () => void;
}

function Form({ data, puts, room, line, decal, onChange, onTakeOut }: FormProps) {
  const drawn = decal.drawn ?? room.fresh;
  const draw = (to: Partial<Drawing>) => onChange({ drawn: { ...drawn, ...to } });
  const [text, setText] = useState(drawn.text ?? '');
  const [both, setBoth] = useState(false);
  const placing = typeof puts.putting === 'object' && puts.putting.id === decal.id;
  const places = decal.places ?? [];
  const at = (i: number, turnDeg: number) =>
    onChange({ places: places.map((p, k) => (k === i ? { ...p, turnDeg } : p)) });
  return (
    <div className={roomly.form}>
      <div className={roomly.two}>
        <Select
          size="xs"
          label="It shows"
          data={room.shapes}
          value={drawn.shape}
          allowDeselect={false}
          onChange={(shape) => draw({ shape: (shape ?? drawn.shape) as Drawing['shape'] })}
        />
        {drawn.shape === 'text' && (
          <TextInput
            size="xs"
            label="It says"
            maxLength={12}
            value={text}
            onChange={(e) => setText(e.currentTarget.value)}
            onBlur={() => text !== drawn.text && draw({ text })}
            onKeyDown={(e) => e.key === 'Enter' && text !== drawn.text && draw({ text })}
          />
        )}
        <Measure
          label="Wide, mm real"
          value={line.realMm}
          min={1}
          max={10_000}
          onTake={(sizeMm) => onChange({ sizeMm })}
        />
        <Paint label="Colour" hex={drawn.hex} onTake={(hex) => draw({ hex })} />
        <Paint label="Line about it" hex={drawn.edge ?? ''} empty="none" onTake={(edge) => draw({ edge })} />
        {drawn.edge && (
          <Measure
            label="That line, mm real"
            value={line.edgeMm}
            min={0}
            max={200}
            onTake={(edgeMm) => draw({ edgeMm })}
          />
        )}
      </div>
      <Checkbox
        size="xs"
        label="painted by hand, through a stencil"
        checked={decal.painted ?? false}
        onChange={(e) => onChange({ painted: e.currentTarget.checked })}
      />
      {decal.painted && (
        <PotSelect
          label={`What ${decal.name} is painted from`}
          family="waterborne_acrylic"
          value={decal.jar}
          onTake={(jar) => onChange({ jar })}
        />
      )}
      {!decal.painted && (
        <Checkbox
          size="xs"
          label="of thick film: three rounds of softener"
          checked={decal.thick ?? false}
          onChange={(e) => onChange({ thick: e.currentTarget.checked })}
        />
      )}
      <div className={roomly.row}>
        <Button
          size="xs"
          variant={placing ? 'filled' : 'default'}
          onClick={() => puts.setPutting(placing ? undefined : { id: decal.id, name: decal.name, both })}
        >
          {placing ? 'Click on a view …' : 'Place it on the vehicle'}
        </Button>
        <Checkbox
          size="xs"
          label="on both sides"
          checked={both}
          onChange={(e) => {
            setBoth(e.currentTarget.checked);
            puts.setPutting(undefined);
          }}
        />
      </div>
      {places.length > 0 && (
        <ul className={classes.places} aria-label={`Where ${decal.name} stands`}>
          {places.map((p, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: places have no name of their own
            <li key={i}>
              <span>{said(data.plan, p.zone)}</span>
              <Measure label="Turned, °" value={p.turnDeg ?? 0} min={-360} max={360} onTake={(v) => at(i, v)} />
              <TakeOut
                what={`${decal.name}, ${said(data.plan, p.zone)}`}
                inRow
                onTake={() => onChange({ places: places.filter((_, k) => k !== i) })}
              />
            </li>
          ))}
        </ul>
      )}
      {line.under.map((u) => (
        <p key={u.words} className={roomly.mute}>
          {u.share
            ? `${u.words} stands over ${Math.round(100 * u.share)} % of it: that part is not seen`
            : `${u.words} goes on over it, after it`}
        </p>
      ))}
      {line.fine && <p className={roomly.caution}>{line.fine}</p>}
      <p className={roomly.mute}>
        {line.worn.length > 0 ? `Worn with the paint around it by: ${line.worn.join(', ')}.` : 'Nothing wears it.'}
      </p>
      <TakeOut what={decal.name} onTake={onTakeOut} />
    </div>
  );
}
