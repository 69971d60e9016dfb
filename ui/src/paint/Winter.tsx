import { Button, Select } from '@mantine/core';
import { useLibrary } from '../api/useLibrary';
import { saidAll } from '../room/places';
import type { RoomProps } from '../room/props';
import classes from '../room/room.module.css';
import { TakeOut } from '../room/TakeOut';

/** How it is worn, and how it goes about markings. */
const schools = ['worn-colour', 'under-wash'];

interface WinterProps extends Pick<RoomProps, 'tools' | 'data'> {
  /** It was put on: the plate shows how it ends. */
  onPut: () => void;
}

/** Temporary paint over scheme and markings, worn off again. */
export function Winter({ tools, data, onPut }: WinterProps) {
  const asked = useLibrary().data?.schools.filter((s) => schools.includes(s.id)) ?? [];
  const wash = data.build.layers.find((l) => l.id === data.plan.temporary);
  const busy = tools.edit.isPending;
  return (
    <section aria-label="Winter wash" className={classes.card}>
      {wash ? (
        <div className={classes.row}>
          <span className={classes.wide}>
            {wash.name} over it, on {saidAll(data.plan, wash.zones)}
          </span>
          <TakeOut what={wash.name} onTake={() => tools.edit.mutate([{ op: 'temporary', text: 'off' }])} />
        </div>
      ) : (
        <Button
          variant="outline"
          disabled={busy}
          onClick={() => tools.edit.mutate([{ op: 'temporary' }], { onSuccess: onPut })}
        >
          Brush a winter wash over it
        </Button>
      )}
      <div className={classes.two}>
        {asked.map((s) => (
          <Select
            key={s.id}
            size="xs"
            label={s.name}
            allowDeselect={false}
            disabled={busy || (wash !== undefined && s.id === 'worn-colour')}
            data={s.choices}
            value={data.build.schools?.[s.id] || s.choices[0]}
            onChange={(text) => tools.edit.mutate([{ op: 'school', school: s.id, text: text ?? '' }])}
          />
        ))}
      </div>
    </section>
  );
}
