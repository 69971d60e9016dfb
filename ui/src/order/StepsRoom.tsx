import { Button, MultiSelect, NumberInput, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import { type OrderEdit, Refusal, type Step } from '../api/client';
import { useFamilies, useLibrary } from '../api/useLibrary';
import { clock } from '../clock';
import { choices } from '../room/places';
import type { RoomProps } from '../room/props';
import classes from './Order.module.css';

const fresh = {
  title: '',
  kind: 'own',
  minutes: '' as number | string,
  count: '' as number | string,
  zones: [] as string[],
  family: null as string | null,
  before: null as string | null,
};

/** Every step with the reason for its place; added, split, merged, moved or left out. */
export function StepsRoom({ tools, data, at }: RoomProps) {
  const { plan } = data;
  const { edit } = tools;
  const library = useLibrary();
  const families = useFamilies();
  const [picked, setPicked] = useState<string[]>([]);
  const [own, setOwn] = useState(fresh);
  const [past, setPast] = useState(false);
  const [into, setInto] = useState<number | string>(2);
  const step = plan.steps[at];
  const send = (order: OrderEdit, after?: () => void) => edit.mutate([{ op: 'order', order }], { onSuccess: after });
  const title = (id: string) => plan.steps.find((s) => s.id === id)?.title ?? id;
  const refusal =
    edit.error instanceof Refusal && edit.variables?.some((e) => e.op === 'order') ? edit.error : undefined;
  const changed = plan.reworked;
  const meant = data.build.order?.meant ?? [];
  const unit = library.data?.kinds.find((k) => k.id === own.kind)?.unit;
  const steps = plan.steps.map((s) => ({ value: s.id, label: s.title }));
  return (
    <section aria-label="Steps" className={classes.room}>
      {refusal && (
        <div role="alert" className={classes.trouble}>
          <p>{refusal.words}</p>
          <div className={classes.row}>
            {refusal.mends.map((m) => (
              <Button key={m.label} size="xs" variant="outline" onClick={() => edit.mutate(m.edits)}>
                {m.label}
              </Button>
            ))}
            <button type="button" className="word" onClick={() => edit.reset()}>
              keep the order
            </button>
          </div>
        </div>
      )}
      {step && (
        <div className={classes.room}>
          <h3>{step.title}: change its place</h3>
          <div className={classes.row}>
            <Select
              label="Do it after"
              searchable
              w={260}
              data={steps.filter((c) => c.value !== step.id)}
              value={null}
              placeholder="choose a step"
              onChange={(after) => after && send({ do: 'move', task: step.id, after })}
            />
            <NumberInput label="In parts" w={80} min={2} max={12} value={into} onChange={setInto} />
            <Button
              size="xs"
              variant="outline"
              onClick={() => send({ do: 'split', task: step.id, into: Number(into) })}
            >
              Split it
            </Button>
            <Button size="xs" variant="outline" onClick={() => send({ do: 'leave', task: step.id })}>
              Leave it out
            </Button>
          </div>
          {picked.length > 1 && (
            <div className={classes.row}>
              <Button
                size="xs"
                onClick={() =>
                  send({ do: 'merge', tasks: picked, title: picked.map(title).join(', ') }, () => setPicked([]))
                }
              >
                Merge {picked.length} steps
              </Button>
              <button type="button" className="word" onClick={() => setPicked([])}>
                none
              </button>
            </div>
          )}
        </div>
      )}
      {changed.length > 0 && (
        <div>
          <h3>Changed by you</h3>
          <ul className={classes.words}>
            {changed.map((c) => (
              <li key={c.words}>
                {c.words}{' '}
                <button type="button" className="word" onClick={() => send({ do: 'undo', task: c.task })}>
                  as generated
                </button>
              </li>
            ))}
          </ul>
        </div>
      )}
      {meant.length > 0 && (
        <div>
          <h3>Advice you overruled</h3>
          <ul className={classes.words}>
            {meant.map((m) => (
              <li key={m.from + m.to}>{m.reason}</li>
            ))}
          </ul>
        </div>
      )}
      <details className={classes.fold}>
        <summary>Add a step of your own</summary>
        <div className={classes.row}>
          <TextInput
            label="What is done"
            value={own.title}
            onChange={(e) => setOwn({ ...own, title: e.currentTarget.value })}
          />
          <Select
            label="Of the kind"
            w={190}
            searchable
            allowDeselect={false}
            data={(library.data?.kinds ?? []).map((k) => ({
              value: k.id,
              label: k.id === 'own' ? 'of no kind' : k.name.replace('%s', '…').trim() || k.id.replaceAll('_', ' '),
            }))}
            value={own.kind}
            onChange={(kind) => setOwn({ ...own, kind: kind ?? 'own' })}
          />
          <NumberInput
            label="Minutes"
            w={150}
            min={1}
            placeholder={own.kind === 'own' ? 'how many' : 'as its kind takes'}
            value={own.minutes}
            onChange={(minutes) => setOwn({ ...own, minutes })}
          />
          {own.kind !== 'own' && unit !== 'cm2' && (
            <NumberInput
              label={unit === 'cm' ? 'cm of seam' : 'Pieces'}
              w={90}
              min={1}
              placeholder="1"
              value={own.count}
              onChange={(count) => setOwn({ ...own, count })}
            />
          )}
          <MultiSelect
            label="On"
            w={190}
            data={choices(plan)}
            placeholder={own.zones.length ? undefined : 'the whole vehicle'}
            value={own.zones}
            onChange={(zones) => setOwn({ ...own, zones })}
            searchable
          />
          <Select
            label="With"
            w={190}
            clearable
            searchable
            placeholder="no product that dries"
            data={families.data?.map((f) => ({ value: f.id, label: f.name })) ?? []}
            value={own.family}
            onChange={(family) => setOwn({ ...own, family })}
          />
          <Select
            label="What waits for it"
            w={230}
            clearable
            searchable
            placeholder="nothing"
            data={steps.filter((c) => c.value !== step?.id)}
            value={own.before}
            onChange={(before) => setOwn({ ...own, before })}
          />
          <Button
            size="xs"
            onClick={() =>
              send(
                {
                  do: 'add',
                  step: {
                    id: '',
                    title: own.title,
                    kind: own.kind,
                    minutes: Number(own.minutes),
                    count: own.count === '' ? undefined : Number(own.count),
                    zones: own.zones,
                    family: own.family ?? undefined,
                    after: step?.id,
                    before: own.before ?? undefined,
                  },
                },
                () => setOwn(fresh),
              )
            }
          >
            Add it after {step ? step.title.toLowerCase() : 'the last'}
          </Button>
        </div>
      </details>
      <button type="button" className="word" onClick={() => setPast(!past)}>
        {past ? 'hide what is done' : `show the ${plan.stand.done} that are done`}
      </button>
      <ol className={classes.steps} aria-label="All steps in working order">
        {plan.steps.map((s, i) =>
          past || i === at || !isOver(s) ? (
            <li key={s.id} className={classes.step} data-status={s.status} data-at={i === at || undefined}>
              <input
                type="checkbox"
                aria-label={`Pick ${s.title}`}
                checked={picked.includes(s.id)}
                onChange={(e) =>
                  setPicked(e.currentTarget.checked ? [...picked, s.id] : picked.filter((x) => x !== s.id))
                }
              />
              <span>
                {s.title}
                {s.chain && s.status !== 'done' ? ' ◆' : ''}
              </span>
              <span>{when(s)}</span>
              {i === at && s.after.length > 0 && (
                <ul className={classes.words} aria-label="Why it stands here">
                  {s.after.map((a) => (
                    <li key={a.from + a.kind}>
                      after {title(a.from)}: {a.reason}
                    </li>
                  ))}
                </ul>
              )}
            </li>
          ) : null,
        )}
      </ol>
      <p className={classes.lead}>◆ a minute later here ends the build later.</p>
    </section>
  );
}

const isOver = (s: Step) => s.status === 'done' || s.status === 'drying' || s.status === 'skipped';

function when(s: Step): string {
  if (isOver(s)) {
    return s.status === 'skipped' ? 'left out' : 'done';
  }
  return s.failed || !s.spans[0] ? 'no place' : clock(s.spans[0].from);
}
