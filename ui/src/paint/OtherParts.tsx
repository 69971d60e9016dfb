import { Button, Select } from '@mantine/core';
import type { Layer } from '../api/client';
import { useWorkshop } from '../api/useWorkshop';
import { Paint } from '../room/Paint';
import { saidAll } from '../room/places';
import type { RoomProps } from '../room/props';
import classes from '../room/room.module.css';
import { TakeOut } from '../room/TakeOut';
import { PotSelect } from './PotSelect';
import type { PutWork } from './useMarkings';

interface OtherProps extends Pick<RoomProps, 'tools' | 'data'> {
  puts: PutWork;
}

/** Parts with a history of their own: a wheel, a section of a skirt, a fitting that came from another vehicle. */
export function OtherParts({ tools, data, puts }: OtherProps) {
  // Paint of its own on one place: what lies on several, or on whole parts, is laid over the scheme.
  const own = data.build.layers.filter(
    (l) =>
      l.kind === 'colour' &&
      l.hex &&
      l.id !== data.plan.temporary &&
      l.zones?.length === 1 &&
      l.zones[0]?.includes('.'),
  );
  const book = useWorkshop().workshop?.book ?? [];
  const placing = puts.putting === 'a part from another vehicle';
  const change = (layer: Layer) => tools.edit.mutate([{ op: 'layers', layers: [{ op: 'change', layer }] }]);
  return (
    <section aria-label="Parts from another vehicle" className={classes.card}>
      {own.map((l) => (
        <div key={l.id} className={classes.form}>
          <div className={classes.row}>
            <span className={classes.wide}>{saidAll(data.plan, l.zones)}</span>
            <TakeOut
              what={l.name}
              onTake={() => tools.edit.mutate([{ op: 'layers', layers: [{ op: 'drop', id: l.id }] }])}
            />
          </div>
          {book.length > 0 && (
            <Select
              label="It wore a scheme"
              placeholder="one of the book"
              data={book.map((b) => ({ value: b.id, label: b.name }))}
              value={null}
              onChange={(id) => {
                const b = book.find((b) => b.id === id);
                if (b) {
                  tools.edit.mutate([
                    { op: 'otherScheme', zone: l.zones?.[0], scheme: { ...b.scheme, anchors: [], traces: [] } },
                  ]);
                }
              }}
            />
          )}
          <div className={classes.two}>
            <Paint
              label="Its colour"
              name={`Colour of ${l.name}`}
              hex={l.hex ?? ''}
              onTake={(hex) => hex && change({ ...l, hex, jar: '' })}
            />
            <PotSelect
              label="Its jar"
              family={l.family}
              value={l.jar}
              onTake={(jar, of) =>
                change({
                  ...l,
                  jar,
                  ...(of?.family ? { family: of.family } : {}),
                  ...(of?.hex ? { hex: of.hex } : {}),
                })
              }
            />
          </div>
        </div>
      ))}
      <Button
        variant={placing ? 'filled' : 'outline'}
        onClick={() => puts.setPutting(placing ? undefined : 'a part from another vehicle')}
      >
        {placing ? 'Click on the part …' : 'A part came from another vehicle'}
      </Button>
    </section>
  );
}
