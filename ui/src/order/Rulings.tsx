import { Button, MultiSelect, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { Kit, Schemas } from '../api/client';
import { TakeOut } from '../room/TakeOut';
import classes from './Order.module.css';

type Ruling = Schemas['KitRuling'];

/** Parts, openings and decals that something can be about. */
export const subjects = (kit: Kit) =>
  [...(kit.parts ?? []), ...(kit.features ?? []), ...(kit.decals ?? [])].map((x) => ({ value: x.id, label: x.name }));

const blank = { about: '', one: 'leaflet', oneSays: '', other: 'photograph', otherSays: '' };

/** Where references contradict each other: settled once, written down, told at the step. */
export function Rulings({ kit, onTake }: { kit: Kit; onTake: (rulings: Ruling[]) => void }) {
  const [typed, setTyped] = useState(blank);
  const rulings = kit.rulings ?? [];
  const change = (id: string, by: Partial<Ruling>) => onTake(rulings.map((r) => (r.id === id ? { ...r, ...by } : r)));
  const field = (key: keyof typeof blank, label: string, w: number) => (
    <TextInput
      label={label}
      w={w}
      value={typed[key]}
      onChange={(e) => setTyped({ ...typed, [key]: e.currentTarget.value })}
    />
  );
  return (
    <details className={classes.fold} open={rulings.length > 0}>
      <summary>References that contradict each other, {rulings.length}</summary>
      {rulings.map((r) => (
        <article key={r.id} aria-label={r.about} className={classes.room}>
          <h3>
            {r.about} <TakeOut what={r.about} inRow onTake={() => onTake(rulings.filter((x) => x !== r))} />
          </h3>
          <ul className={classes.words}>
            {r.says.map((s) => (
              <li key={s.name}>
                <strong>{s.name}:</strong> {s.says}
              </li>
            ))}
          </ul>
          <div className={classes.row}>
            <Select
              label="What rules"
              w={150}
              placeholder="not settled yet"
              data={r.says.map((s) => s.name)}
              value={r.rules || null}
              onChange={(v) => change(r.id, { rules: v ?? '' })}
            />
            <TextInput
              label="Because"
              w={220}
              defaultValue={r.because ?? ''}
              onBlur={(e) =>
                e.currentTarget.value !== (r.because ?? '') && change(r.id, { because: e.currentTarget.value })
              }
            />
            <MultiSelect
              label="It is about"
              w={240}
              searchable
              data={subjects(kit)}
              value={r.for ?? []}
              onChange={(v) => change(r.id, { for: v })}
            />
          </div>
        </article>
      ))}
      <div className={classes.row}>
        {field('about', 'What is asked', 180)}
        {field('one', 'One reference', 110)}
        {field('oneSays', 'says', 150)}
        {field('other', 'Another', 110)}
        {field('otherSays', 'says instead', 150)}
        <Button
          size="xs"
          disabled={!typed.about.trim() || !typed.oneSays.trim() || !typed.otherSays.trim()}
          onClick={() => {
            onTake([
              ...rulings,
              {
                id: crypto.randomUUID(),
                about: typed.about.trim(),
                says: [
                  { name: typed.one, says: typed.oneSays },
                  { name: typed.other, says: typed.otherSays },
                ],
              },
            ]);
            setTyped(blank);
          }}
        >
          Write it down
        </Button>
      </div>
    </details>
  );
}
