import { NumberInput, Select, Textarea, TextInput } from '@mantine/core';
import { useState } from 'react';
import { type Evenings, type Plan, type Step, words } from '../api/client';
import { send, type Uploaded } from '../api/send';
import type { BuildTools } from '../api/useBuild';
import { useLibrary } from '../api/useLibrary';
import { clock } from '../clock';
import { partsOf, said } from '../room/places';
import classes from './BenchScreen.module.css';
import type { useJotted } from './useBench';

export type Log = BuildTools['log'];
export type Say = (words: string) => (next: { changes?: { words: string }[] }) => void;

/** What to put on the bench before the session, and its steps in order. */
export function Gather({ evenings, onClose }: { evenings?: Evenings; onClose: () => void }) {
  const t = evenings?.tonight;
  return (
    <aside className={classes.panel} aria-label="Gather for tonight">
      <Head title={t?.words ?? 'Nothing is planned'} onClose={onClose} />
      {t && (
        <>
          <List name="Jars" items={t.jars} />
          <List name="Tools" items={t.tools} />
          {t.prints.length > 0 && (
            <p>
              Print:{' '}
              {t.prints.map((p) => (
                <a
                  key={p.build + p.sheet}
                  href={`/api/builds/${p.build}/sheets/${p.sheet}.pdf`}
                  target="_blank"
                  rel="noreferrer"
                >
                  {p.words}
                </a>
              ))}
            </p>
          )}
          <ol className={classes.order}>
            {t.lines.map((l) => (
              <li key={l.build + l.task + l.from}>
                {clock(l.from, 'time')} {l.title}
                <small>
                  {' '}
                  {l.setUp ? l.why : l.name}
                  {l.oneGo ? ', same colour, one go' : ''}
                </small>
              </li>
            ))}
          </ol>
        </>
      )}
    </aside>
  );
}

function List({ name, items }: { name: string; items: string[] }) {
  return items.length === 0 ? null : (
    <p>
      {name}: <strong>{items.join(', ')}</strong>
    </p>
  );
}

export function Head({ title, onClose }: { title: string; onClose: () => void }) {
  return (
    <div className={classes.panelHead}>
      <h2>{title}</h2>
      <button type="button" className="word" onClick={onClose}>
        close
      </button>
    </div>
  );
}

interface JotProps {
  build: string;
  step: Step;
  jot: ReturnType<typeof useJotted>;
  log: Log;
  say: Say;
  onClose: () => void;
}

/** A note, a lesson, a value, coats per side, a photograph. */
export function Jot({ build, step, jot, log, say, onClose }: JotProps) {
  const [text, setText] = useState('');
  const [value, setValue] = useState({ name: '', value: '' });
  const [trouble, setTrouble] = useState('');
  const jotDown = (kind: 'note' | 'lesson' | 'skipped' | 'repeat', what: string) =>
    log.mutate(
      { kind, step, more: { note: text } },
      {
        onSuccess: (next) => {
          say(what)(next);
          setText('');
          onClose();
        },
      },
    );
  const picture = async (file: File) => {
    try {
      const kept = await send<Uploaded>(`/api/builds/${build}/photos`, file, () => {});
      log.mutate(
        { kind: 'photo', step, more: { photo: kept.hash, note: text } },
        { onSuccess: say('The picture is in the diary.') },
      );
    } catch (e) {
      setTrouble(words(e));
    }
  };
  const coats = step.layer !== undefined;
  return (
    <aside className={classes.panel} aria-label="Note something">
      <Head title="Note something" onClose={onClose} />
      <Textarea
        label="In words"
        size="lg"
        minRows={2}
        autosize
        data-autofocus
        value={text}
        onChange={(e) => setText(e.currentTarget.value)}
      />
      <div className={classes.buttons}>
        <button type="button" disabled={!text.trim()} onClick={() => jotDown('note', 'Noted.')}>
          Keep the note
        </button>
        <button
          type="button"
          disabled={!text.trim()}
          onClick={() => jotDown('lesson', 'It will come up at the next step of this kind.')}
        >
          Keep as a lesson
        </button>
      </div>
      <div className={classes.pair}>
        <TextInput
          label="A value"
          placeholder="pressure"
          value={value.name}
          onChange={(e) => setValue({ ...value, name: e.currentTarget.value })}
        />
        <TextInput
          label="is"
          placeholder="1.4 bar"
          value={value.value}
          onChange={(e) => setValue({ ...value, value: e.currentTarget.value })}
        />
        <button
          type="button"
          disabled={!value.name.trim() || !value.value.trim()}
          onClick={() => {
            jot.set({ measured: [...jot.jotted.measured, value] });
            setValue({ name: '', value: '' });
          }}
        >
          Keep
        </button>
      </div>
      {jot.jotted.measured.map((m) => (
        <p key={m.name + m.value}>
          {m.name}: <strong>{m.value}</strong>
        </p>
      ))}
      {step.needs
        .filter((n) => n.pot)
        .map((n) => (
          <NumberInput
            key={n.pot}
            label={`Used of ${n.name}, ml`}
            placeholder={`${n.ml.toFixed(1)} as planned`}
            min={0}
            decimalScale={2}
            allowedDecimalSeparators={['.', ',']}
            hideControls
            value={jot.jotted.used?.[n.pot ?? ''] ?? ''}
            onChange={(ml) => {
              const { [n.pot ?? '']: _, ...others } = jot.jotted.used ?? {};
              jot.set({ used: ml === '' ? others : { ...others, [n.pot ?? '']: Number(ml) } });
            }}
          />
        ))}
      {coats && (
        <div className={classes.pair}>
          {(['left', 'right'] as const).map((side) => (
            <span key={side}>
              Coats {side}{' '}
              <button
                type="button"
                aria-label={`One coat less, ${side}`}
                onClick={() => jot.set({ [side]: Math.max(0, (jot.jotted[side] ?? 0) - 1) })}
              >
                −
              </button>{' '}
              <strong>{jot.jotted[side] ?? 0}</strong>{' '}
              <button
                type="button"
                aria-label={`One coat more, ${side}`}
                onClick={() => jot.set({ [side]: (jot.jotted[side] ?? 0) + 1 })}
              >
                +
              </button>
            </span>
          ))}
          {jot.jotted.left !== undefined && jot.jotted.right !== undefined && jot.jotted.left !== jot.jotted.right && (
            <span role="status">
              {Math.abs(jot.jotted.left - jot.jotted.right)} fewer on the{' '}
              {jot.jotted.left > jot.jotted.right ? 'right' : 'left'}
            </span>
          )}
        </div>
      )}
      <label className={classes.file}>
        Photograph it
        <input
          type="file"
          accept="image/png,image/jpeg"
          onChange={(e) => e.currentTarget.files?.[0] && void picture(e.currentTarget.files[0])}
        />
      </label>
      {trouble && (
        <p role="alert" className={classes.caution}>
          {trouble}
        </p>
      )}
      <div className={classes.choices}>
        <button type="button" onClick={() => jotDown('skipped', `${step.title}: left out.`)}>
          Leave this step out
        </button>
        <button type="button" onClick={() => jotDown('repeat', `${step.title}: once more.`)}>
          Once more after it
        </button>
      </div>
    </aside>
  );
}

interface TroubleProps {
  plan: Plan;
  step: Step;
  log: Log;
  say: Say;
  onClose: () => void;
}

/** What went wrong, how it is mended, or why it may be left. */
export function Trouble({ plan, step, log, say, onClose }: TroubleProps) {
  const [picked, setPicked] = useState<string>();
  const done = plan.steps.filter((s) => s.status === 'done' || s.status === 'drying' || s.id === step.id);
  const [at, setAt] = useState(step.id);
  const of = done.find((s) => s.id === at) ?? step;
  const parts = partsOf(plan);
  const [zones, setZones] = useState<string[]>([]);
  // What is usual with the step comes first, then what else is met at its stage.
  const met = (useLibrary().data?.mishaps ?? []).filter((w) => of.wrong.includes(w.id) || w.stages.includes(of.stage));
  const wrong = [...met.filter((w) => of.wrong.includes(w.id)), ...met.filter((w) => !of.wrong.includes(w.id))];
  const m = wrong.find((w) => w.id === picked);
  const decide = (choice: 'repair' | 'leave') =>
    log.mutate(
      { kind: 'mishap', step: of, more: { mishap: picked, choice, zones: zones.length ? zones : of.zones } },
      {
        onSuccess: (next) => {
          say(choice === 'repair' ? 'The repair is in the plan.' : 'Left, and written down.')(next);
          onClose();
        },
      },
    );
  return (
    <aside className={classes.panel} aria-label="What went wrong">
      <Head title="What went wrong?" onClose={onClose} />
      <Select
        size="lg"
        label="At which step"
        data={done
          .slice()
          .reverse()
          .map((s) => ({ value: s.id, label: s.title }))}
        value={at}
        allowDeselect={false}
        onChange={(v) => v && setAt(v)}
      />
      <div className={classes.choices}>
        {wrong
          .filter((w) => !m || w === m)
          .map((w) => (
            <button
              key={w.id}
              type="button"
              aria-pressed={picked === w.id}
              data-usual={of.wrong.includes(w.id) || undefined}
              onClick={() => setPicked(w.id)}
            >
              {w.name}
            </button>
          ))}
        {m && (
          <button type="button" onClick={() => setPicked(undefined)}>
            something else
          </button>
        )}
      </div>
      {m && (
        <>
          <p>
            <strong>Repair:</strong> {m.repair}
          </p>
          <fieldset className={classes.choices} aria-label="Where">
            {parts.map((z) => (
              <button
                key={z}
                type="button"
                aria-pressed={zones.includes(z)}
                onClick={() => setZones(zones.includes(z) ? zones.filter((x) => x !== z) : [...zones, z])}
              >
                {said(plan, z)}
              </button>
            ))}
          </fieldset>
          <div className={classes.buttons}>
            <button type="button" onClick={() => decide('repair')}>
              Repair it
            </button>
            {m.leave && (
              <button type="button" onClick={() => decide('leave')}>
                Leave it: {m.leave}
              </button>
            )}
          </div>
        </>
      )}
      {log.error && (
        <p role="alert" className={classes.caution}>
          {words(log.error)}
        </p>
      )}
    </aside>
  );
}
