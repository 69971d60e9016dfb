import { Button, NumberInput, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { Jar as JarText } from '../api/client';
import { TakeOut } from '../room/TakeOut';
import { Chips } from './Chips';
import { Jar } from './Jar';
import { PhotoSwatch } from './PhotoSwatch';
import classes from './Shelf.module.css';
import { type ShelfRoomProps, said } from './said';
import { Trials } from './Trials';

/** What is known of a jar, and changing it. */
export function JarSheet({ jar, tools, shelf }: { jar: JarText } & ShelfRoomProps) {
  const [j, setJ] = useState(jar);
  const kinds = [...shelf.families, ...shelf.fluids];
  const dirty = JSON.stringify(j) !== JSON.stringify(jar);
  return (
    <form
      className={classes.sheet}
      onSubmit={(e) => {
        e.preventDefault();
        tools.edit.mutate([{ op: 'jar', jar: j }]);
      }}
    >
      <div className={classes.jarHead}>
        <Jar jar={j} onLevel={(ml) => setJ({ ...j, leftMl: Math.round(ml * 10) / 10 })} />
        <div>
          <h2>{said(jar)}</h2>
          <p className={classes.mute}>{kinds.find((f) => f.id === j.family)?.name}</p>
          {shelf.notes[jar.id] && <p>{shelf.notes[jar.id]}</p>}
          {shelf.hiding[jar.id] && <p className={classes.mute}>hides: {shelf.hiding[jar.id]}</p>}
        </div>
      </div>
      <div className={classes.pair}>
        <NumberInput
          label="Left, ml"
          description="click the jar to mark its level"
          min={0}
          max={5000}
          decimalScale={2}
          value={j.leftMl}
          onChange={(v) => setJ({ ...j, leftMl: Number(v) })}
        />
        <NumberInput
          label="As sold, ml"
          description="a full one"
          min={0}
          max={5000}
          value={j.volumeMl}
          onChange={(v) => setJ({ ...j, volumeMl: Number(v) })}
        />
      </div>
      <div className={classes.pair}>
        <TextInput
          label="Swatch, dry"
          value={j.hex ?? ''}
          placeholder="# and six digits"
          onChange={(e) => setJ({ ...j, hex: e.currentTarget.value })}
        />
        <Select
          label="State"
          allowDeselect={false}
          data={['fine', 'settled', 'half dry', 'expired', 'empty', 'ordered']}
          value={j.state}
          onChange={(state) => setJ({ ...j, state: (state ?? 'fine') as JarText['state'] })}
        />
      </div>
      <div className={classes.pair}>
        <TextInput label="Place" value={j.place ?? ''} onChange={(e) => setJ({ ...j, place: e.currentTarget.value })} />
        <TextInput
          label={j.state === 'ordered' ? 'Arrives' : 'Best before'}
          placeholder="2026-11-26"
          value={(j.state === 'ordered' ? j.arrives : j.bestBefore) ?? ''}
          onChange={(e) =>
            setJ(
              j.state === 'ordered'
                ? { ...j, arrives: e.currentTarget.value }
                : { ...j, bestBefore: e.currentTarget.value },
            )
          }
        />
      </div>
      <div className={classes.pair}>
        <NumberInput
          label="Own thinning, 1 :"
          placeholder="as its family"
          min={0}
          max={40}
          step={0.1}
          value={j.temper?.thinner ?? ''}
          onChange={(v) => setJ({ ...j, temper: { ...j.temper, thinner: v === '' ? undefined : Number(v) } })}
        />
        <TextInput
          label="Its temper"
          placeholder="crawls when thinned"
          value={j.temper?.note ?? ''}
          onChange={(e) => setJ({ ...j, temper: { ...j.temper, note: e.currentTarget.value } })}
        />
      </div>
      <PhotoSwatch onTake={(hex) => setJ({ ...j, hex })} />
      <Chips
        jar={jar}
        onTake={(chips) => {
          setJ({ ...j, chips });
          tools.edit.mutate([{ op: 'jar', jar: { ...jar, chips } }]);
        }}
      />
      <div className={classes.row}>
        <Button type="submit" size="xs" disabled={!dirty} loading={tools.edit.isPending}>
          Keep
        </Button>
        <TakeOut what={said(jar)} onTake={() => tools.edit.mutate([{ op: 'dropJar', id: jar.id }])} />
      </div>
      {jar.hex && <Trials jar={jar} tools={tools} />}
    </form>
  );
}
