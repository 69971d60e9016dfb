import { Select } from '@mantine/core';
import { useLibrary } from '../api/useLibrary';
import type { RoomProps } from '../room/props';
import classes from './Order.module.css';

/** Where practitioners disagree: each question with its answers; the first is the default. */
export function SchoolsRoom({ tools, data }: RoomProps) {
  const library = useLibrary();
  return (
    <section aria-label="Schools" className={classes.room}>
      <p className={classes.lead}>Where practitioners disagree, you decide; the first answer is what most do.</p>
      {(library.data?.schools ?? []).map((s) => (
        <Select
          key={s.id}
          label={s.name}
          description={s.steps ? `${s.why}; changes steps` : s.why}
          data={s.choices}
          value={data.build.schools?.[s.id] ?? s.choices[0] ?? null}
          allowDeselect={false}
          mb={6}
          onChange={(answer) => tools.edit.mutate([{ op: 'school', school: s.id, text: answer ?? '' }])}
        />
      ))}
    </section>
  );
}
