import { Button, SegmentedControl, Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type BuildState, type View, words } from '../api/client';
import type { BuildTools } from '../api/useBuild';
import { viewNames } from '../plate/Plate';
import classes from '../room/room.module.css';
import own from './Scheme.module.css';

const sides = ['left', 'right', 'top', 'front', 'rear'] as const;

/** The fields of a view by size: each may get another colour; that of its neighbour joins them. */
export function Fields({ tools, data }: { tools: BuildTools; data: BuildState }) {
  const [side, setSide] = useState<View['side']>();
  const { colours } = data.build.scheme;
  const list = useQuery({
    queryKey: ['fields', data.build.id, data.revision, side],
    enabled: side !== undefined,
    queryFn: () =>
      ask(api.GET('/api/builds/{id}/fields/{side}', { params: { path: { id: data.build.id, side: side ?? 'left' } } })),
    placeholderData: (before) => before,
  });
  return (
    <section aria-label="Field by field" className={classes.form}>
      <div className={classes.row}>
        <h3>Field by field</h3>
        {!side && (
          <Button size="xs" variant="outline" onClick={() => setSide('left')}>
            List the fields
          </Button>
        )}
      </div>
      {side && (
        <SegmentedControl
          size="xs"
          aria-label="View whose fields are listed"
          data={sides.map((s) => ({ value: s, label: viewNames[s] }))}
          value={side}
          onChange={(s) => setSide(s as View['side'])}
        />
      )}
      {list.isError && (
        <p role="alert" className={classes.error}>
          {words(list.error)}
        </p>
      )}
      {side && list.data && (
        <ol className={own.fields}>
          {list.data.map((f, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a field is its place by size
            <li key={i}>
              <i className={own.chip} style={{ background: colours[f.colour]?.hex }} />
              <span>
                {f.areaCm2 < 1 ? f.areaCm2.toFixed(1) : Math.round(f.areaCm2)} cm², {f.where}
              </span>
              <Select
                aria-label={`Colour of field ${i + 1}`}
                size="xs"
                w={140}
                allowDeselect={false}
                data={colours.map((c, k) => ({ value: String(k), label: c.name }))}
                value={String(f.colour)}
                onChange={(to) =>
                  to !== null &&
                  Number(to) !== f.colour &&
                  tools.edit.mutate(
                    f.spots.map((s) => ({
                      op: 'pin' as const,
                      pin: { colour: Number(to), place: { what: 'pin', on: s.zone, at: s.at } },
                    })),
                  )
                }
              />
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}
