import { Button, Select } from '@mantine/core';
import { useState } from 'react';
import { type Plan, words } from '../api/client';
import { useLibrary } from '../api/useLibrary';
import type { RoomProps } from '../room/props';
import classes from '../room/room.module.css';
import { Beside } from './Beside';

type Argued = Plan['argued'][number];

const asks: Record<string, string> = {
  ground: 'Ground it drove on',
  weather: 'Weather of the last weeks',
  age: 'In its paint for',
  use: 'Used for',
  paint: 'Painted how',
  shelter: 'It stands',
  crossing: 'It crossed last',
  damage: 'Damage',
};

/** What the vehicle went through: each answer changes how much of each layer there is. */
export function StoryRoom({ tools, data }: RoomProps) {
  const axes = useLibrary().data?.axes ?? [];
  const [more, setMore] = useState(false);
  const life = data.build.life ?? {};
  const { argued, doubts } = data.plan;
  const answer = (id: string, value: string, usual: string) => {
    const { [id]: _, ...others } = life;
    tools.edit.mutate([{ op: 'life', life: value === usual ? others : { ...others, [id]: value } }]);
  };
  const refused = tools.edit.isError && !tools.stale && tools.edit.variables?.some((e) => e.op === 'life');
  return (
    <section aria-label="Story" className={classes.worked}>
      <p className={classes.mute}>Tell what it went through. The plate and the amounts answer each time.</p>
      <div className={classes.asked}>
        {axes
          .filter((a) => a.first || more || life[a.id])
          .map((a) => {
            const usual = a.values[0]?.value ?? '';
            const now = life[a.id] || usual;
            const note = a.values.find((v) => v.value === now)?.note;
            return (
              <Select
                key={a.id}
                label={asks[a.id] ?? a.id}
                description={note}
                allowDeselect={false}
                data={a.values.map((v) => v.value)}
                value={now}
                onChange={(v) => v && answer(a.id, v, usual)}
              />
            );
          })}
      </div>
      {!more && (
        <p>
          <button type="button" className="word" onClick={() => setMore(true)}>
            more: shelter, crossing, damage
          </button>
        </p>
      )}
      {refused && (
        <p role="alert" className="trouble">
          {words(tools.edit.error)}
        </p>
      )}
      {doubts.map((d) => (
        <p key={d} role="note" className="trouble">
          {d}
        </p>
      ))}
      <div className={classes.row}>
        <Button
          size="xs"
          variant="outline"
          disabled={tools.edit.isPending}
          onClick={() => tools.edit.mutate([{ op: 'propose' }])}
        >
          Put in the layers that follow from it
        </Button>
        {tools.edit.isError && !tools.stale && tools.edit.variables?.some((e) => e.op === 'propose') && (
          <span role="alert">{words(tools.edit.error)}</span>
        )}
      </div>
      <Beside tools={tools} data={data} />
      {argued.length > 0 && <h3>So there is</h3>}
      <ul aria-label="Amounts" className={classes.argued}>
        {[...argued.filter(moved), ...argued.filter((a) => !moved(a))].map((a) => (
          <li key={a.layer}>
            <strong>{a.name}</strong>
            <Bar usual={a.usual} now={a.now} />
            <small>{a.words}</small>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What is not as usual stands first. */
const moved = (a: Argued) => a.now !== a.usual;

/** How much there is beside what is usual: four times that at most. */
function Bar({ usual, now }: { usual: number; now: number }) {
  const wide = (v: number) => Math.min(100, (100 * v) / Math.max(4 * usual, 1e-9));
  return (
    <svg viewBox="0 0 100 8" preserveAspectRatio="none" height="8" width="100%" aria-hidden="true">
      <rect width="100" height="8" fill="var(--hair)" />
      <rect width={wide(now)} height="8" fill="var(--ink)" />
      <path d={`M${wide(usual)} 0V8`} stroke="var(--sheet)" strokeWidth="1" />
    </svg>
  );
}
