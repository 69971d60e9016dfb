import { Button, NumberInput, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import { type Plan, type WhatIf, words } from '../api/client';
import { useEvenings, useLibrary } from '../api/useLibrary';
import { useWorkshop } from '../api/useWorkshop';
import { clock } from '../clock';
import type { RoomProps } from '../room/props';
import { Why } from '../why/Why';
import classes from './Order.module.css';
import { Tails } from './Tails';
import { useWhatIf } from './useWhatIf';
import { WeekForm } from './WeekForm';

/** The evenings of all builds with their drying tails; what would change, tried first. */
export function EveningsRoom(props: RoomProps) {
  const { data } = props;
  const evenings = useEvenings();
  const [days, setDays] = useState(10);
  const e = evenings.data;
  const next = e?.sessions.find((s) => s.lines.some((l) => l.build === data.build.id));
  return (
    <section aria-label="Evenings" className={classes.room}>
      <Conflicts plan={data.plan} />
      {e && (
        <>
          <p>
            {data.plan.ends ? `Ends ${clock(data.plan.ends)}. ` : 'Nothing is left to lay. '}
            {next ? `Next at it ${clock(next.from)}. ` : ''}
            <Why why={e.why} name="How good the plan is">
              {e.proven
                ? 'No plan is better'
                : e.gap < 0.005
                  ? 'No plan ends sooner'
                  : `${(100 * e.gap).toFixed(0)} % above what no plan can beat`}
            </Why>
          </p>
          <Tails evenings={e} build={data.build.id} days={days} />
          <div className={classes.row}>
            <button type="button" className="word" onClick={() => setDays(days > 10 ? 10 : 28)}>
              {days > 10 ? 'ten days' : 'four weeks'}
            </button>
            <a href={`/api/builds/${data.build.id}/sheets/plan.ics`} download="evenings.ics">
              Calendar file
            </a>
            <a href={`/api/builds/${data.build.id}/sheets/plan.csv`} download="steps.csv">
              Steps as CSV
            </a>
            <a href={`/api/builds/${data.build.id}/sheets/cards.pdf`} target="_blank" rel="noreferrer">
              Bench cards
            </a>
          </div>
        </>
      )}
    </section>
  );
}

/** What cannot all be kept. */
function Conflicts({ plan }: { plan: Plan }) {
  return plan.conflicts.map((c) => (
    <p key={c} role="alert" className="trouble">
      No plan keeps all of this: {c}.
    </p>
  ));
}

/** The hours at the bench, places and airbrushes. */
export function HoursRoom({ data }: RoomProps) {
  return (
    <>
      <Conflicts plan={data.plan} />
      <WeekForm />
    </>
  );
}

const weekdays = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday'];

/** What would change, side by side, before it is taken. */
export function WhatIfRoom({ data, tools }: RoomProps) {
  const library = useLibrary();
  const { keep } = useWorkshop();
  const [q, setQ] = useState<WhatIf>({
    kind: 'evening',
    day: 0,
    from: '14:00',
    to: '17:00',
    degrees: 4,
    school: 'pieces',
    answer: 'built up',
  });
  const tried = useWhatIf(data.build.id);
  const school = library.data?.schools.find((s) => s.id === q.school);
  const set = (by: Partial<WhatIf>) => {
    tried.reset();
    setQ({ ...q, ...by });
  };
  return (
    <section aria-label="What if" className={classes.room}>
      <h3>What if</h3>
      <div className={classes.row}>
        <Select
          aria-label="What to try"
          w={170}
          allowDeselect={false}
          data={[
            { value: 'evening', label: 'another evening' },
            { value: 'warmer', label: 'a warmer room' },
            { value: 'school', label: 'another school' },
          ]}
          value={q.kind}
          onChange={(kind) => set({ kind: (kind ?? 'evening') as WhatIf['kind'] })}
        />
        {q.kind === 'evening' && (
          <>
            <Select
              aria-label="Weekday"
              w={120}
              allowDeselect={false}
              data={weekdays.map((label, i) => ({ value: String(i), label }))}
              value={String(q.day)}
              onChange={(v) => set({ day: Number(v) })}
            />
            <TextInput aria-label="From" w={74} value={q.from} onChange={(e) => set({ from: e.currentTarget.value })} />
            <TextInput aria-label="To" w={74} value={q.to} onChange={(e) => set({ to: e.currentTarget.value })} />
          </>
        )}
        {q.kind === 'warmer' && (
          <NumberInput aria-label="Degrees" w={90} value={q.degrees} onChange={(v) => set({ degrees: Number(v) })} />
        )}
        {q.kind === 'school' && (
          <>
            <Select
              aria-label="School"
              w={190}
              allowDeselect={false}
              data={(library.data?.schools ?? []).filter((s) => s.steps).map((s) => ({ value: s.id, label: s.name }))}
              value={q.school}
              onChange={(v) => set({ school: v ?? '', answer: '' })}
            />
            <Select
              aria-label="Answer"
              w={190}
              allowDeselect={false}
              data={school?.choices ?? []}
              value={q.answer || null}
              onChange={(v) => set({ answer: v ?? '' })}
            />
          </>
        )}
        <Button size="xs" variant="outline" loading={tried.isPending} onClick={() => tried.mutate(q)}>
          Try it
        </Button>
      </div>
      {(tried.error || keep.error) && (
        <p role="alert" className="trouble">
          {words(tried.error ?? keep.error)}
        </p>
      )}
      {tried.data && (
        <div className={classes.side}>
          <div>
            <p>Now</p>
            <p>{tried.data.now.words}</p>
          </div>
          <div>
            <p>Then</p>
            <p>{tried.data.then.words}</p>
          </div>
          <ul className={classes.words}>
            {tried.data.changes.slice(0, 6).map((c) => (
              <li key={c.words}>{c.words}</li>
            ))}
          </ul>
          <div>
            <Button
              size="xs"
              loading={keep.isPending}
              onClick={() =>
                q.kind === 'school'
                  ? tools.edit.mutate([{ op: 'school', school: q.school, text: q.answer }], {
                      onSuccess: () => tried.reset(),
                    })
                  : keep.mutate(() => tried.data.workshop, { onSuccess: () => tried.reset() })
              }
            >
              Take it
            </Button>
            {q.kind !== 'school' && <p className={classes.lead}>Hours and room are the same for all builds.</p>}
          </div>
        </div>
      )}
    </section>
  );
}
