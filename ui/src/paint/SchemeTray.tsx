import { Button, Checkbox, SegmentedControl } from '@mantine/core';
import { useState } from 'react';
import { type Edit, type Pattern, words } from '../api/client';
import type { RoomProps } from '../room/props';
import classes from '../room/room.module.css';
import { lookOf } from '../screen/looked';
import { Book, Candidates } from './Candidates';
import { ColourCard } from './ColourCard';
import { Fields } from './Fields';
import { FromPicture } from './FromPicture';
import { Holds } from './Holds';
import { OtherParts } from './OtherParts';
import { Pins } from './Pins';
import own from './Scheme.module.css';
import type { PutWork } from './useMarkings';
import { type PinWork, type Shows, useCamouflage } from './useScheme';
import { Winter } from './Winter';

/** As many as a scheme bears. */
const mostColours = 8;

/** Colours in spraying order, each laid its own way; the plate follows when they are taken. */
export function SchemeTray({ tools, data, pins, puts }: RoomProps & { pins: PinWork; puts: PutWork }) {
  const kept = data.build.scheme;
  /** What was typed and not taken yet; pins and pictures are taken at once. */
  const [draft, setDraft] = useState<Pattern>();
  const scheme = draft ? { ...draft, anchors: kept.anchors, traces: kept.traces } : kept;
  const [open, setOpen] = useState<number>();
  const lies = useCamouflage(data.build.id, data.revision).data;
  const colour = (i: number, change: Partial<Pattern['colours'][number]>) =>
    setDraft({ ...scheme, colours: scheme.colours.map((c, k) => (k === i ? { ...c, ...change } : c)) });
  const take = (next: Pattern | undefined, ...then: Edit[]) =>
    tools.edit.mutate([...(next ? [{ op: 'scheme' as const, scheme: next }] : []), ...then], {
      // What was typed meanwhile stays.
      onSuccess: () => setDraft((now) => (now === draft ? undefined : now)),
    });
  const swap = (i: number, j: number) => {
    const order = scheme.colours.map((_, k) => (k === i ? j : k === j ? i : k));
    take(draft && scheme, { op: 'sequence', colours: order });
    setOpen(j);
  };
  const refused =
    tools.edit.isError &&
    !tools.stale &&
    tools.edit.variables?.some((e) => /scheme|pin|moveField|colour|sequence|temporary|other|layers/i.test(e.op));
  return (
    <section aria-label="Scheme" className={classes.form}>
      <SegmentedControl
        size="xs"
        aria-label="What the plate shows"
        data={[
          { value: 'on', label: 'once it is on' },
          { value: 'now', label: 'as it stands' },
          { value: 'end', label: 'at the end, dust and all' },
        ]}
        value={pins.shows ?? 'now'}
        onChange={(s) => pins.setShows(s as Shows)}
      />
      <div className={own.bar} role="img" aria-label="Shares of the colours">
        {data.plan.colours.map((c) => (
          <i key={c.name} style={{ background: c.hex, width: `${100 * c.share}%` }} title={c.name} />
        ))}
      </div>
      {scheme.colours.map((c, i) => (
        <ColourCard
          // biome-ignore lint/suspicious/noArrayIndexKey: colours are told apart by their place in spraying order
          key={i}
          at={i}
          colour={c}
          scheme={scheme}
          data={data}
          families={lies?.families ?? []}
          open={open === i}
          onOpen={() => setOpen(open === i ? undefined : i)}
          onChange={(change) => colour(i, change)}
          onSooner={i > 1 ? () => swap(i, i - 1) : undefined}
          onLater={i > 0 && i < scheme.colours.length - 1 ? () => swap(i, i + 1) : undefined}
          onTakeOut={i > 0 ? () => take(draft && scheme, { op: 'dropColour', colours: [i] }) : undefined}
        />
      ))}
      <div className={classes.row}>
        <Button disabled={!draft} loading={tools.edit.isPending} onClick={() => take(scheme)}>
          Take this scheme
        </Button>
        {scheme.colours.length < mostColours && (
          <Button variant="outline" onClick={() => take(draft && scheme, { op: 'addColour' })}>
            Add a colour
          </Button>
        )}
        {scheme.colours.length > 1 && (
          <Checkbox
            label="close with a mist of the first colour"
            checked={scheme.mist ?? false}
            onChange={(e) => setDraft({ ...scheme, mist: e.currentTarget.checked })}
          />
        )}
      </div>
      {refused && (
        <p role="alert" className={classes.error}>
          {words(tools.edit.error)}
        </p>
      )}
      {lies?.notes.map((n) => (
        <p key={n} role="status" className={classes.caution}>
          {n}
        </p>
      ))}
      {lies?.alike.map((a) => (
        <p key={a.words} role="status" className={classes.caution}>
          Hard to tell apart at the end: {a.words}
        </p>
      ))}
      {scheme.colours.length > 1 && (
        <>
          <FromPicture data={data} scheme={scheme} told={lies} onTake={take} look={lookOf(data, 0, 'on')} />
          <Pins tools={tools} data={data} told={lies} work={pins} />
          <Fields tools={tools} data={data} />
          {lies && <Holds told={lies} data={data} />}
          <Candidates data={data} scheme={scheme} onTake={take} />
        </>
      )}
      <OtherParts tools={tools} data={data} puts={puts} />
      <Winter tools={tools} data={data} onPut={() => pins.setShows('end')} />
      <Book data={data} scheme={scheme} onTake={take} />
    </section>
  );
}
