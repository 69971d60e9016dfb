import { Checkbox, Select } from '@mantine/core';
import type { Kit, Plan, Schemas } from '../api/client';
import { Paint } from '../room/Paint';
import { partsOf, said } from '../room/places';
import classes from './Order.module.css';

type Inside = Schemas['KitInside'];
type Work = NonNullable<Inside['works']>[number];

const works: { id: Work; name: string }[] = [
  { id: 'prime', name: 'primed' },
  { id: 'paint', name: 'painted' },
  { id: 'details', name: 'details painted' },
  { id: 'chips', name: 'chipped' },
  { id: 'wash', name: 'washed' },
];

/** What is seen of each inside, and what is done about it before it is closed. */
export function Insides({ kit, plan, onTake }: { kit: Kit; plan: Plan; onTake: (insides: Inside[]) => void }) {
  const bodies = partsOf(plan).filter((p) => p !== 'gear');
  const of = (part: string) => (kit.insides ?? []).find((i) => i.part === part);
  const take = (next: Inside) => onTake([...(kit.insides ?? []).filter((i) => i.part !== next.part), next]);
  return (
    <details className={classes.fold} open={(kit.insides ?? []).length > 0}>
      <summary>Insides</summary>
      {bodies.map((part) => {
        const now = of(part);
        const done = now?.works?.length ? now.works : works.map((w) => w.id);
        return (
          <div key={part} className={classes.row}>
            <Select
              label={`Inside of ${said(plan, part)}`}
              w={190}
              allowDeselect={false}
              data={[
                { value: '', label: 'nothing is said' },
                { value: 'closed', label: 'closed, nothing is seen' },
                { value: 'glimpsed', label: 'glimpsed: darkened' },
                { value: 'detailed', label: 'detailed' },
              ]}
              value={now?.state ?? ''}
              onChange={(v) =>
                v
                  ? take({ part, state: v as Inside['state'] })
                  : onTake((kit.insides ?? []).filter((i) => i.part !== part))
              }
            />
            {now?.state === 'detailed' &&
              works.map((w) => (
                <Checkbox
                  key={w.id}
                  label={w.name}
                  checked={done.includes(w.id)}
                  onChange={(e) =>
                    take({
                      ...now,
                      works: works
                        .map((x) => x.id)
                        .filter((x) => (x === w.id ? e.currentTarget.checked : done.includes(x))),
                    })
                  }
                />
              ))}
            {now?.state === 'detailed' && done.includes('paint') && (
              <Paint label="painted in" empty="pale" hex={now.hex ?? ''} onTake={(hex) => take({ ...now, hex })} />
            )}
            {now && now.state !== 'closed' && <Looking plan={plan} inside={now} />}
          </div>
        );
      })}
    </details>
  );
}

/** The inside as it looks before it is closed: without its roof, and without its left wall. */
function Looking({ plan, inside }: { plan: Plan; inside: Inside }) {
  const as = [inside.state, ...(inside.works ?? []), inside.hex ?? ''].join(' ');
  return (
    <div className={classes.inside}>
      {(['top', 'left'] as const).map((side) => (
        <img
          key={side}
          src={`/api/builds/${plan.build}/insides/${inside.part}/${side}?${new URLSearchParams({ px: '4', as })}`}
          alt={`Inside of ${said(plan, inside.part)}, ${side === 'top' ? 'its roof off' : 'its left wall off'}`}
        />
      ))}
    </div>
  );
}
