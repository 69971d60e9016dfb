import { Button, Checkbox, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { Jar } from '../api/client';
import classes from './Shelf.module.css';
import { Split } from './Split';
import { said } from './said';
import type { ShelfTools } from './useShelf';

/** Test pieces: how a jar really dried, and how far the forecasts were off. */
export function Trials({ jar, tools }: { jar: Jar; tools: ShelfTools }) {
  const [seen, setSeen] = useState('');
  const [corrects, setCorrects] = useState(true);
  const trials = jar.trials ?? [];
  const [beside, setBeside] = useState<string | null>(null);
  const { jars = [], mixes = [] } = tools.state.data?.shelf ?? {};
  return (
    <section aria-label="Test pieces" className={classes.trials}>
      <h3>Test pieces</h3>
      <p className={classes.mute}>
        {tools.state.data?.tried[jar.id] ?? 'None yet. Sprayed and dried, its colour makes the next forecast better.'}
      </p>
      {trials.slice(-3).map((t) => (
        <div key={t.on + t.seen} className={classes.trial}>
          <Split hex={t.forecast || t.seen} beside={t.seen} />
          <span>
            {t.on}: ΔE00 {t.difference.toFixed(1)}
            {t.corrected ? ', swatch set right' : ''}
            {t.beside && t.apart !== undefined ? `; beside ${t.beside} ΔE00 ${t.apart.toFixed(1)}` : ''}
          </span>
        </div>
      ))}
      <div className={classes.row}>
        <TextInput
          aria-label="How it dried"
          size="xs"
          w={130}
          placeholder="dried as #…"
          value={seen}
          onChange={(e) => setSeen(e.currentTarget.value)}
        />
        <Select
          aria-label="Held beside"
          size="xs"
          w={150}
          placeholder="beside …"
          clearable
          searchable
          data={[
            ...mixes.map((m) => ({ value: m.id, label: m.name })),
            ...jars.filter((j) => j.hex && j.id !== jar.id).map((j) => ({ value: j.id, label: said(j) })),
          ]}
          value={beside}
          onChange={setBeside}
        />
        <Checkbox
          size="xs"
          label="set the swatch right"
          checked={corrects}
          onChange={(e) => setCorrects(e.currentTarget.checked)}
        />
        <Button
          size="xs"
          variant="outline"
          disabled={!/^#[0-9a-f]{6}$/i.test(seen.trim())}
          onClick={() =>
            tools.edit.mutate([
              {
                op: 'trial',
                id: jar.id,
                trial: {
                  on: '',
                  forecast: '',
                  seen: seen.trim(),
                  difference: 0,
                  corrected: corrects,
                  ...(beside ? { beside } : {}),
                },
              },
            ])
          }
        >
          Keep it
        </Button>
      </div>
    </section>
  );
}
