import { Button, NumberInput, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import { words } from '../api/client';
import { Why } from '../why/Why';
import classes from './Shelf.module.css';
import { Split } from './Split';
import { type ShelfRoomProps, said } from './said';
import { useCup } from './useShelf';

interface Row {
  key: string;
  jar: string | null;
  drops: number | string;
}

const fresh = (): Row => ({ key: crypto.randomUUID(), jar: null, drops: 10 });

/** What is in the cup came out wrong: the fewest drops that bring it right. */
export function CupRoom({ shelf }: ShelfRoomProps) {
  const { jars = [], mixes = [] } = shelf.shelf;
  const [rows, setRows] = useState<Row[]>([fresh()]);
  const [target, setTarget] = useState('');
  const [pot, setPot] = useState<string | null>(null);
  const [looks, setLooks] = useState('');
  const cup = useCup();
  const a = cup.data;
  const paints = jars.filter((j) => j.hex).map((j) => ({ value: j.id, label: said(j) }));
  const set = (i: number, by: Partial<Row>) => setRows(rows.map((r, k) => (k === i ? { ...r, ...by } : r)));
  const isHex = /^#[0-9a-f]{6}$/i.test(looks.trim());
  return (
    <div className={classes.two}>
      <form
        className={classes.cup}
        aria-label="The cup"
        onSubmit={(e) => {
          e.preventDefault();
          cup.mutate({
            cup: rows.flatMap((r) => (r.jar && Number(r.drops) > 0 ? [{ jar: r.jar, drops: Number(r.drops) }] : [])),
            target: pot ? { pot } : { hex: target.trim() },
            ...(isHex ? { seen: looks.trim() } : { said: looks.trim() }),
          });
        }}
      >
        <h2>What is in the cup</h2>
        {rows.map((r, i) => (
          <div key={r.key} className={classes.row}>
            <Select
              aria-label={`Jar ${i + 1} in the cup`}
              placeholder="a jar"
              w={260}
              searchable
              data={paints}
              value={r.jar}
              onChange={(jar) => set(i, { jar })}
            />
            <NumberInput
              aria-label={`Drops of jar ${i + 1}`}
              w={90}
              min={1}
              max={2000}
              value={r.drops}
              onChange={(drops) => set(i, { drops })}
            />
            <span>drops</span>
            {rows.length > 1 && (
              <button type="button" className="word" onClick={() => setRows(rows.filter((_, k) => k !== i))}>
                take out
              </button>
            )}
          </div>
        ))}
        <div>
          <button type="button" className="word" onClick={() => setRows([...rows, fresh()])}>
            another jar
          </button>
        </div>
        <h2>What it should be</h2>
        <div className={classes.row}>
          <TextInput
            aria-label="Colour it should be"
            placeholder="#rrggbb"
            w={130}
            disabled={pot !== null}
            value={target}
            onChange={(e) => setTarget(e.currentTarget.value)}
          />
          <span>or like</span>
          <Select
            aria-label="Like a jar or a mix"
            placeholder="a jar or a mix"
            w={260}
            clearable
            searchable
            data={[...mixes.map((m) => ({ value: m.id, label: m.name })), ...paints]}
            value={pot}
            onChange={setPot}
          />
        </div>
        <h2>How it looks, dried beside it</h2>
        <TextInput
          aria-label="How it looks"
          placeholder="too green, a little too dark, or a swatch"
          description="Leave it empty when it dried as its drops say."
          value={looks}
          onChange={(e) => setLooks(e.currentTarget.value)}
        />
        <div>
          <Button
            type="submit"
            loading={cup.isPending}
            disabled={!rows.some((r) => r.jar) || (!pot && !/^#[0-9a-f]{6}$/i.test(target.trim()))}
          >
            What to add
          </Button>
        </div>
        {cup.error && (
          <p role="alert" className="trouble">
            {words(cup.error)}
          </p>
        )}
      </form>
      <aside className={classes.side} aria-label="What to add">
        {!a && (
          <p className={classes.mute}>
            Drops can only be added. The fewest that bring the cup within what the eye sees come here.
          </p>
        )}
        {a && (
          <div className={classes.sheet}>
            <p className={classes.under}>
              <span>now beside wanted</span>
              <span>ΔE00 {a.before.toFixed(1)}</span>
            </p>
            <Split hex={a.is} beside={a.target} />
            {a.add.length === 0 ? (
              <p>Nothing to add: it is {a.words}.</p>
            ) : (
              <ul className={classes.counts}>
                {a.add.map((p) => (
                  <li key={p.jar}>
                    <span style={{ background: p.hex }} />
                    <strong>{p.drops}</strong> drops of {p.name}
                    {p.short && <em> more than it holds</em>}
                  </li>
                ))}
              </ul>
            )}
            <p className={classes.under}>
              <span>then beside wanted</span>
              <span>ΔE00 {a.difference.toFixed(1)}</span>
            </p>
            <Split hex={a.becomes} beside={a.target} />
            <p>
              <Why why={a.why} name="How it was found">
                {a.enough ? a.words : `No nearer than that: ${a.words}`}
              </Why>
              . The cup then holds {a.ml.toFixed(1)} ml.
            </p>
          </div>
        )}
      </aside>
    </div>
  );
}
