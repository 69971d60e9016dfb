import { Button, NumberInput, Select } from '@mantine/core';
import { useState } from 'react';
import type { Edit } from '../api/client';
import { useLibrary } from '../api/useLibrary';
import { useDrawing } from '../plate/usePlate';
import { said } from '../room/places';
import type { RoomProps } from '../room/props';
import classes from './Form.module.css';
import type { FormWork } from './useFormWork';

type Kind = NonNullable<Edit['small']>['kind'];

/** Bolts, rivets, welds and joints: round a plate, along a line or one by one. */
export function SmallRelief({ data, zone, work }: Pick<RoomProps, 'data' | 'zone'> & { work: FormWork }) {
  const kinds = useLibrary().data?.reliefs ?? [];
  const [kind, setKind] = useState<Kind>('bolts');
  const usual = kinds.find((k) => k.id === kind);
  // As is usual of its kind, until something else is typed.
  const [typed, setTyped] = useState<{ pitch?: number | string; size?: number | string }>({});
  const pitch = typed.pitch ?? usual?.pitchMm ?? 0;
  const size = typed.size ?? usual?.sizeMm ?? 0;
  const small = useDrawing(data.plan).data?.small ?? [];
  const shown = zone ? small.filter((s) => s.zone === zone) : small;
  const of = { kind, sizeMm: Number(size) || 0, pitchMm: usual?.dots ? Number(pitch) || 0 : 0 };
  const putting = (way: 'line' | 'point') => work.placing?.op === 'small' && work.placing.small?.way === way;
  const put = (way: 'line' | 'point') =>
    work.setPlacing(
      putting(way)
        ? undefined
        : { op: 'small', what: usual?.name ?? kind, small: { ...of, way, zone: zone ?? 'hull' } },
    );
  return (
    <section aria-label="Small relief" className={classes.room}>
      <h3>Bolts, rivets, welds</h3>
      <div className={classes.line}>
        <Select
          label="What stands out"
          data={kinds.map((k) => ({ value: k.id, label: k.name }))}
          value={kind}
          allowDeselect={false}
          w={150}
          onChange={(v) => {
            setKind((v ?? kind) as Kind);
            setTyped({});
          }}
        />
        {usual?.dots && (
          <NumberInput
            label="Every, mm real"
            min={2}
            max={5000}
            w={120}
            value={pitch}
            onChange={(v) => setTyped({ ...typed, pitch: v })}
          />
        )}
        <NumberInput
          label="Wide, mm real"
          min={2}
          max={500}
          w={120}
          value={size}
          onChange={(v) => setTyped({ ...typed, size: v })}
        />
      </div>
      <div className={classes.line}>
        <Button
          variant="default"
          disabled={!zone}
          onClick={() => zone && work.take([{ op: 'small', small: { ...of, way: 'round', zone } }])}
        >
          {zone ? `round ${said(data.plan, zone)}` : 'pick a plate to go round it'}
        </Button>
        <Button variant={putting('line') ? 'filled' : 'default'} onClick={() => put('line')}>
          along a line
        </Button>
        {usual?.dots && (
          <Button variant={putting('point') ? 'filled' : 'default'} onClick={() => put('point')}>
            one by one
          </Button>
        )}
      </div>
      <ul className={classes.details} aria-label="Small relief on it">
        {shown.map((s) => (
          <li key={s.id}>
            {said(data.plan, s.zone)}: {s.words}{' '}
            <button
              type="button"
              className="word"
              aria-label={`Take away: ${s.words}, ${said(data.plan, s.zone)}`}
              onClick={() => work.take([{ op: 'dropSmall', text: s.id }])}
            >
              take away
            </button>
          </li>
        ))}
        {shown.length === 0 && <li className={classes.mute}>nothing on it yet</li>}
      </ul>
      {data.build.small && (
        <p>
          <button type="button" className="word" onClick={() => work.take([{ op: 'usualSmall' }])}>
            as it comes with every body
          </button>
        </p>
      )}
    </section>
  );
}
