import { Button } from '@mantine/core';
import { useState } from 'react';
import { words } from '../api/client';
import type { RoomProps } from '../room/props';
import classes from '../room/room.module.css';
import { Why } from '../why/Why';
import own from './Core.module.css';
import { type Fate, useSurvival } from './useFate';

/** What of each layer will still be seen at the end, and what it is worth for its time. */
export function WorthRoom({ tools, data, onMark, onLayer }: RoomProps) {
  const told = useSurvival(data.build.id, data.revision);
  const [open, setOpen] = useState<string>();
  const show = (f: Fate) => {
    const to = open === key(f) ? undefined : key(f);
    setOpen(to);
    onLayer(to ? f.layer : undefined);
    onMark(to ? (f.drop ?? []) : []);
  };
  if (told.error) {
    return (
      <p role="alert" className="trouble">
        {words(told.error)}
      </p>
    );
  }
  return (
    <section aria-label="Worth" className={classes.worked}>
      <p className={classes.mute}>How much of each layer will still be seen when all is done.</p>
      {!told.data && <p role="status">Reckoning what will be seen …</p>}
      {told.data?.short && <p>{told.data.short}.</p>}
      <ol className={own.fates} aria-label="What will be seen">
        {told.data?.fates.map((f) => {
          const wasted = data.plan.findings.find((x) => x.rule === 'W4' && x.layer === f.layer);
          return (
            <li key={key(f)} className={own.fate}>
              <button type="button" className="plain" aria-expanded={open === key(f)} onClick={() => show(f)}>
                <span>
                  <i className={own.chip} style={{ background: f.hex }} />
                  {f.name}
                </span>
                <span>
                  {f.seen ? `${(100 * f.part).toFixed(0)} %` : 'never'} <small>{f.min.toFixed(0)} min</small>
                </span>
                <svg
                  viewBox="0 0 100 6"
                  preserveAspectRatio="none"
                  height="6"
                  width="100%"
                  aria-hidden="true"
                  className={own.bar}
                >
                  <rect width="100" height="6" fill="var(--hair)" />
                  <rect width={100 * f.part} height="6" fill="var(--ink)" />
                </svg>
              </button>
              {open === key(f) && told.data && (
                <>
                  <p>{f.words}.</p>
                  {wasted?.mends
                    .filter((m) => m.id !== 'drop')
                    .map((m) => (
                      <Button
                        key={m.id}
                        size="xs"
                        variant="outline"
                        disabled={tools.edit.isPending}
                        onClick={() => tools.edit.mutate([{ op: 'mend', finding: wasted.id, mend: m.id }])}
                      >
                        {m.label}
                      </Button>
                    ))}
                  <p>
                    It adds{' '}
                    <Why why={told.data.why} name={`What ${f.name} adds`}>
                      ΔE00 {f.adds.toFixed(2)}
                    </Why>{' '}
                    over the whole vehicle: {f.worth.toFixed(2)} for ten minutes of work.
                  </p>
                  <Zones fate={f} onMark={onMark} />
                </>
              )}
            </li>
          );
        })}
      </ol>
    </section>
  );
}

const key = (f: Fate) => `${f.layer} ${f.colour ?? 0}`;

/** The zones on which it is seen least. */
function Zones({ fate, onMark }: { fate: Fate; onMark: RoomProps['onMark'] }) {
  const [all, setAll] = useState(false);
  const shown = all ? fate.zones : fate.zones.slice(0, 8);
  return (
    <>
      <table>
        <thead>
          <tr>
            <th>where</th>
            <th>cm²</th>
            <th>still seen</th>
            <th>ΔE00</th>
          </tr>
        </thead>
        <tbody>
          {shown.map((z) => (
            <tr key={z.zone} onPointerEnter={() => onMark([z.zone])} onPointerLeave={() => onMark(fate.drop ?? [])}>
              <td>{z.where}</td>
              <td>{z.areaCm2.toFixed(1)}</td>
              <td>
                {(100 * z.part).toFixed(0)} %{z.error > 0.005 && ` ± ${(100 * z.error).toFixed(0)}`}
              </td>
              <td>{z.end.toFixed(1)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {fate.zones.length > 8 && (
        <button type="button" className="word" onClick={() => setAll(!all)}>
          {all ? 'fewer' : `all ${fate.zones.length}`}
        </button>
      )}
    </>
  );
}
