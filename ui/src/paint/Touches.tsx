import { Button, Select } from '@mantine/core';
import { useState } from 'react';
import type { BuildState, Layer, View } from '../api/client';
import { said } from '../room/places';
import type { RoomProps } from '../room/props';
import classes from '../room/room.module.css';
import { TakeOut } from '../room/TakeOut';
import own from './Core.module.css';
import type { Marking } from './useMarking';

const whats: Record<Marking['what'], string> = { more: 'More here', none: 'None here', only: 'Only here' };

/** How far a mark reaches, mm of the real vehicle. */
const reaches = [100, 200, 400, 800];

/** Where the modeller wants more of a layer, none of it, or all of it: set by a click on the plate. */
export function Touches({ layer, data, tools, marks }: Pick<RoomProps, 'data' | 'tools' | 'marks'> & { layer: Layer }) {
  const { marking, setMarking } = marks;
  const [radius, setRadius] = useState(200);
  const now = marking?.layer === layer.id ? marking.what : undefined;
  const touches = layer.touches ?? [];
  return (
    <>
      <div className={classes.row}>
        {(Object.keys(whats) as Marking['what'][]).map((what) => (
          <Button
            key={what}
            size="xs"
            variant={now === what ? 'filled' : 'outline'}
            onClick={() => setMarking(now === what ? undefined : { layer: layer.id, what, radiusMm: radius })}
          >
            {whats[what]}
          </Button>
        ))}
        <Select
          aria-label="How far the mark reaches"
          size="xs"
          w={120}
          allowDeselect={false}
          data={reaches.map((r) => ({ value: String(r), label: `${r} mm real` }))}
          value={String(radius)}
          onChange={(r) => {
            setRadius(Number(r));
            if (now) {
              setMarking({ layer: layer.id, what: now, radiusMm: Number(r) });
            }
          }}
        />
      </div>
      {touches.length > 0 && (
        <ul className={own.fates} aria-label={`Marks of ${layer.name}`}>
          {touches.map((t, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a mark is its place in the list
            <li key={i} className={classes.row}>
              <span>
                {whats[t.what]}, {t.zone ? said(data.plan, t.zone) : 'on the vehicle'}, {t.radiusMm} mm
              </span>
              <TakeOut
                what={`mark ${i + 1}`}
                inRow
                onTake={() =>
                  tools.edit.mutate([
                    {
                      op: 'layers',
                      layers: [{ op: 'change', layer: { ...layer, touches: touches.filter((_, k) => k !== i) } }],
                    },
                  ])
                }
              />
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

/** The marks of a layer over a view. */
export function TouchMarks({ view, data, layer }: { view: View; data: BuildState; layer?: string }) {
  return (
    <g className={own.mark}>
      {data.plan.touched
        .filter((t) => t.layer === layer)
        .map((t) => {
          const [x, y] = t.seen.find((s) => s.side === view.side)?.at ?? [];
          const dash = t.what === 'none' ? '5 4' : undefined;
          return x === undefined ? null : (
            <circle key={`${x} ${y}`} cx={x} cy={y} r={t.radiusMm} strokeDasharray={dash} />
          );
        })}
    </g>
  );
}
