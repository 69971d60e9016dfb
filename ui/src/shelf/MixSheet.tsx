import { Button, NumberInput } from '@mantine/core';
import { useState } from 'react';
import { type Jar as JarText, words } from '../api/client';
import { TakeOut } from '../room/TakeOut';
import classes from './Shelf.module.css';
import { Split } from './Split';
import { type ShelfRoomProps, said } from './said';

/** A kept mix: what is in it, what is left, made again. */
export function MixSheet({ id, tools, shelf }: { id?: string } & ShelfRoomProps) {
  const mix = shelf.shelf.mixes?.find((m) => m.id === id);
  const [left, setLeft] = useState<number | string>('');
  if (!mix) {
    return (
      <p className={classes.mute}>
        Choose a jar to say what is left in it, how it really dried, or how it wants to be thinned. Type a jar in one
        line to put it on the shelf.
      </p>
    );
  }
  const name = (jar: string) => shelf.shelf.jars?.find((j) => j.id === jar);
  return (
    <div className={classes.sheet}>
      <h2>{mix.name}</h2>
      <Split hex={mix.hex} beside={mix.hex} />
      <p>
        {mix.leftMl.toFixed(1)} ml left, made {mix.made}
        {mix.in ? `, in ${mix.in}` : ''}
      </p>
      {mix.for && mix.for.length > 0 && <p className={classes.mute}>for {mix.for.join('; ')}</p>}
      <ul className={classes.parts}>
        {mix.parts.map((p) => (
          <li key={p.jar}>
            <span style={{ background: name(p.jar)?.hex }} />
            {p.drops} drops of {name(p.jar) ? said(name(p.jar) as JarText) : 'a jar that is gone'}
          </li>
        ))}
      </ul>
      {shelf.notes[mix.id] && <p>{shelf.notes[mix.id]}.</p>}
      <p className={classes.mute}>
        A fresh mix differs a little from the old one: try it on scrap beside it before a touch-up.
      </p>
      <div className={classes.row}>
        <NumberInput
          aria-label="Left of the mix, ml"
          w={110}
          size="xs"
          placeholder="ml left"
          value={left}
          onChange={setLeft}
        />
        <Button
          size="xs"
          variant="outline"
          disabled={left === ''}
          onClick={() =>
            tools.edit.mutate([{ op: 'level', id: mix.id, ml: Number(left) }], { onSuccess: () => setLeft('') })
          }
        >
          So much is left
        </Button>
      </div>
      <div className={classes.row}>
        <Button
          size="xs"
          loading={tools.edit.isPending}
          onClick={() => tools.edit.mutate([{ op: 'make', mix: { ...mix } }])}
        >
          Mix it again
        </Button>
        <TakeOut what={mix.name} onTake={() => tools.edit.mutate([{ op: 'dropMix', id: mix.id }])} />
      </div>
      {tools.edit.isError && (
        <p role="alert" className="trouble">
          {words(tools.edit.error)}
        </p>
      )}
    </div>
  );
}
