import { Button, FileButton, NumberInput, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { Part, Printer } from '../api/client';
import { send, type Uploaded } from '../api/send';
import { Trouble } from '../api/Trouble';
import { useWorkshop } from '../api/useWorkshop';
import type { RoomProps } from '../room/props';
import { TakeOut } from '../room/TakeOut';
import { Facts } from './Facts';
import classes from './Measure.module.css';
import { usePart } from './useMeasure';

/** Parts one prints oneself: what they measure at the wanted scale, and whether they print. */
export function OwnParts({ tools, data }: RoomProps) {
  const parts = data.build.parts ?? [];
  const { workshop, keep } = useWorkshop();
  const [sending, setSending] = useState<{ name: string; share: number }>();
  const [error, setError] = useState<unknown>();
  const take = async (file: File | null) => {
    if (!file) {
      return;
    }
    setError(undefined);
    setSending({ name: file.name, share: 0 });
    try {
      const kept = await send<Uploaded>(`/api/builds/${data.plan.build}/meshes`, file, (share) =>
        setSending({ name: file.name, share }),
      );
      const name = file.name.replace(/\.stl$/i, '').slice(0, 60) || 'part';
      await tools.edit.mutateAsync([{ op: 'part', part: { id: '', name, hash: kept.hash, unit: 'mm', drawnAt: 1 } }]);
    } catch (e) {
      setError(e);
    }
    setSending(undefined);
  };
  const printers = workshop?.printers ?? [];
  return (
    <section aria-label="Own parts" className={classes.stack}>
      <div className={classes.headRow}>
        <FileButton accept=".stl,model/stl" onChange={take}>
          {(props) => (
            <Button size="xs" variant="default" {...props}>
              Open an STL
            </Button>
          )}
        </FileButton>
        {sending && (
          <span role="status">
            {sending.share < 1 ? `Sending ${sending.name}` : `Reading ${sending.name}`}{' '}
            <progress max={1} value={sending.share} />
          </span>
        )}
      </div>
      <Trouble error={error} />
      {parts.length === 0 && !sending && (
        <p>
          Draw a part, save it as STL, open it here: size, volume, thinnest wall and smallest feature at your scale, and
          whether it fits your printer.
        </p>
      )}
      {parts.map((p) => (
        <PartCard key={p.id} part={p} printers={printers} tools={tools} data={data} />
      ))}
      <h3>Printers</h3>
      {printers.map((p) => (
        <PrinterForm
          key={p.id}
          printer={p}
          onTake={(next) =>
            keep.mutate((w) => ({ ...w, printers: (w.printers ?? []).map((x) => (x.id === next.id ? next : x)) }))
          }
          onDrop={() => keep.mutate((w) => ({ ...w, printers: (w.printers ?? []).filter((x) => x.id !== p.id) }))}
        />
      ))}
      <Trouble error={keep.error} />
      <div>
        <button
          type="button"
          className="word"
          onClick={() =>
            keep.mutate((w) => ({
              ...w,
              printers: [
                ...(w.printers ?? []),
                { id: crypto.randomUUID(), name: 'New printer', kind: 'resin', bed: [120, 70, 150], feature: 0.05 },
              ],
            }))
          }
        >
          Another printer
        </button>
      </div>
    </section>
  );
}

interface PartProps {
  part: Part;
  printers: Printer[];
  tools: RoomProps['tools'];
  data: RoomProps['data'];
}

const stages: Record<string, string> = {
  waiting: 'Waiting for another mesh',
  reading: 'Reading the mesh',
  walls: 'Looking for the thinnest wall',
};

function PartCard({ part, printers, tools, data }: PartProps) {
  const state = usePart(data.plan.build, part.id, data.revision);
  const set = (change: Partial<Part>) => tools.edit.mutate([{ op: 'part', part: { ...part, ...change } }]);
  const report = state.data?.answer?.report;
  const busy = state.data && stages[state.data.stage];
  return (
    <article className={classes.cable} aria-label={part.name}>
      <div className={classes.need}>
        <Named value={part.name} onTake={(name) => set({ name })} />
        <Select
          size="xs"
          label="Drawn in"
          data={['mm', 'cm', 'm', 'in']}
          value={part.unit}
          allowDeselect={false}
          onChange={(unit) => unit && set({ unit })}
        />
        <NumberInput
          size="xs"
          label="Drawn at 1:"
          min={1}
          max={1000}
          hideControls
          value={part.drawnAt}
          onBlur={(e) => {
            const n = Number(e.currentTarget.value.replace(',', '.'));
            if (n >= 1 && n !== part.drawnAt) {
              set({ drawnAt: n });
            }
          }}
        />
        <NumberInput
          size="xs"
          label="Wanted 1:"
          min={1}
          max={1000}
          hideControls
          placeholder={`${data.build.scale}`}
          value={part.wanted || ''}
          onBlur={(e) => {
            const n = Number(e.currentTarget.value.replace(',', '.')) || 0;
            if (n !== (part.wanted ?? 0)) {
              set({ wanted: n || undefined });
            }
          }}
        />
        <Select
          size="xs"
          label="Printer"
          data={printers.map((p) => ({ value: p.id, label: p.name }))}
          value={part.printer || (printers[0]?.id ?? null)}
          allowDeselect={false}
          onChange={(printer) => printer && set({ printer })}
        />
      </div>
      {busy && (
        <p role="status">
          {busy} <progress max={1} value={state.data?.share ?? 0} />
        </p>
      )}
      {state.data?.failed && <p role="alert">{state.data.failed}</p>}
      <Trouble error={state.error} />
      {report && state.data && (
        <>
          <div className={classes.partRow}>
            <OnTheBed box={report.box} printer={state.data.printer} fits={report.fits} />
            <Facts facts={report.facts} />
          </div>
          {report.words.map((w) => (
            <p key={w}>{w}</p>
          ))}
          <p>
            <a className={classes.link} href={`/api/printers/${state.data.printer.id}/calibration.stl`} download>
              Calibration piece for the {state.data.printer.name.toLowerCase()} (STL)
            </a>
          </p>
          <p className={classes.mute}>{state.data.calibration}</p>
          {report.cautions.map((c) => (
            <p key={c} className={classes.caution}>
              {c}
            </p>
          ))}
        </>
      )}
      <div className={classes.acts}>
        <a
          className={classes.link}
          href={`/api/builds/${data.plan.build}/files/${part.hash}`}
          download={`${part.name}.stl`}
        >
          Save its STL
        </a>
        <TakeOut what={part.name} onTake={() => tools.edit.mutate([{ op: 'dropPart', text: part.id }])} />
      </div>
    </article>
  );
}

/** The part's footprint on the printer's bed, both to one scale. */
function OnTheBed({ box, printer, fits }: { box: number[]; printer: Printer; fits: boolean }) {
  const [bx = 1, by = 1, bz = 1] = printer.bed;
  const [x = 0, y = 0, z = 0] = box;
  const wide = Math.max(bx, x) * 1.04;
  const unit = wide / 130;
  const gap = 8 * unit;
  const deep = Math.max(by, y);
  const tall = Math.max(bz, z);
  const style = { fill: 'var(--plastic)', stroke: 'var(--ink)', strokeWidth: unit };
  const bed = { fill: 'none', stroke: 'var(--mute)', strokeWidth: unit, strokeDasharray: `${3 * unit} ${2 * unit}` };
  return (
    <svg
      className={classes.bed}
      viewBox={`0 0 ${wide} ${deep + tall + gap + 14 * unit}`}
      role="img"
      aria-label={`${printer.name}: the part ${fits ? 'fits' : 'does not fit'} its bed`}
    >
      <rect x={(wide - bx) / 2} y={tall - bz} width={bx} height={bz} {...bed} />
      <rect x={(wide - x) / 2} y={tall - z} width={x} height={z} {...style} />
      <rect x={(wide - bx) / 2} y={tall + gap + (deep - by) / 2} width={bx} height={by} {...bed} />
      <rect x={(wide - x) / 2} y={tall + gap + (deep - y) / 2} width={x} height={y} {...style} />
      <text x={wide / 2} y={deep + tall + gap + 11 * unit} fontSize={10 * unit} textAnchor="middle" fill="var(--mute)">
        front and plan on its bed
      </text>
    </svg>
  );
}

function Named({ value, onTake }: { value: string; onTake: (name: string) => void }) {
  const [text, setText] = useState(value);
  return (
    <TextInput
      size="xs"
      label="Part"
      value={text}
      onChange={(e) => setText(e.currentTarget.value)}
      onBlur={() => text.trim() && text !== value && onTake(text.trim())}
    />
  );
}

function PrinterForm({
  printer,
  onTake,
  onDrop,
}: {
  printer: Printer;
  onTake: (p: Printer) => void;
  onDrop: () => void;
}) {
  const [p, setP] = useState({
    name: printer.name,
    kind: printer.kind,
    bed: printer.bed.join(' × '),
    feature: String(printer.feature),
  });
  const take = (next: typeof p) => {
    const bed = (next.bed.match(/[0-9.,]+/g) ?? []).map((v) => Number(v.replace(',', '.')));
    onTake({
      id: printer.id,
      name: next.name,
      kind: next.kind,
      bed: [bed[0] ?? 0, bed[1] ?? 0, bed[2] ?? 0],
      feature: Number(next.feature.replace(',', '.')) || 0,
    });
  };
  const field = (key: 'name' | 'bed' | 'feature', label: string) => (
    <TextInput
      size="xs"
      label={label}
      value={p[key]}
      onChange={(e) => setP({ ...p, [key]: e.currentTarget.value })}
      onBlur={() => take(p)}
    />
  );
  return (
    <div className={classes.need}>
      {field('name', 'Printer')}
      <Select
        size="xs"
        label="Kind"
        data={['filament', 'resin']}
        value={p.kind}
        allowDeselect={false}
        onChange={(kind) => {
          if (kind) {
            setP({ ...p, kind });
            take({ ...p, kind });
          }
        }}
      />
      {field('bed', 'Bed and height, mm')}
      {field('feature', p.kind === 'resin' ? 'Pixel, mm' : 'Nozzle, mm')}
      <button type="button" className={`word ${classes.addButton}`} onClick={onDrop}>
        Take it out
      </button>
    </div>
  );
}
