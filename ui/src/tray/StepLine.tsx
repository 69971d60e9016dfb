import { Button } from '@mantine/core';
import { useState } from 'react';
import { type BuildState, type Step, words } from '../api/client';
import type { BuildTools } from '../api/useBuild';
import { Hands } from '../form/Hands';
import { handed, standing } from '../path/standing';
import classes from '../room/room.module.css';
import { Told } from '../room/Told';
import { Why } from '../why/Why';

/** The step one stands on in one line: what, when, the next act. It opens to why then and what
 * it needs. */
export function StepLine({ step, data, log }: { step: Step; data: BuildState; log: BuildTools['log'] }) {
  const { plan } = data;
  const [open, setOpen] = useState(false);
  const title = (id: string) => plan.steps.find((s) => s.id === id)?.title ?? id;
  const waits = step.after
    .map((a, i) => ({ ...a, room: step.waits?.[i] ?? 0 }))
    .filter((a) => a.room > 0)
    .sort((a, b) => b.room - a.room);
  return (
    <section className={classes.card} aria-label="The step you stand on">
      <div className={classes.stepLine}>
        <button type="button" className="plain" aria-expanded={open} onClick={() => setOpen(!open)}>
          <h2>{step.title}</h2>
          <span className={classes.status} data-status={step.status}>
            {standing(step, plan)}
          </span>
        </button>
        <Acts step={step} log={log} />
      </div>
      {log.error && (
        <p role="alert" className={classes.error}>
          {words(log.error)}
        </p>
      )}
      {step.failed && (
        <p role="alert" className={classes.error}>
          No place for it: {step.failed}.
        </p>
      )}
      {open && step.status !== 'done' && step.status !== 'drying' && (
        <>
          <p className={classes.mute}>
            <Why why={step.timeWhy} name="Hands-on time">
              {step.minutes} min
            </Why>{' '}
            of work{step.product ? `, ${step.product}` : ''}
          </p>
          {waits.length > 0 && (
            <ul className={classes.waits} aria-label="What it waits for">
              {waits.slice(0, 3).map((a) => (
                <li key={a.from}>
                  <strong>{span(a.room)}</strong> after {title(a.from)} ({a.kind}): {a.reason}
                </li>
              ))}
            </ul>
          )}
        </>
      )}
      {open && <Told step={step} />}
      {open && step.setUp && (
        <p className={classes.mute}>
          Before it: {step.setUp.strip ? 'strip and clean' : 'flush'} the airbrush, {step.setUp.why}.
        </p>
      )}
      {step.passed && <p className={classes.error}>{step.passed}</p>}
      {open &&
        step.lessons.map((l) => (
          <p key={l.at + l.note} className={classes.lesson}>
            <strong>Learned on {l.name}:</strong> {l.note}
          </p>
        ))}
      {open && handed(step) && step.status !== 'done' && <Hands data={data} />}
      {open &&
        step.status !== 'done' &&
        step.status !== 'drying' &&
        step.cautions.map((c) => (
          <p key={c} className={classes.caution}>
            {c}
          </p>
        ))}
    </section>
  );
}

const span = (minutes: number) =>
  minutes < 90
    ? `${minutes} min`
    : minutes < 48 * 60
      ? `${+(minutes / 60).toFixed(1)} h`
      : `${+(minutes / 1440).toFixed(1)} days`;

function Acts({ step, log }: { step: Step; log: BuildTools['log'] }) {
  return (
    <div className={classes.row}>
      {(step.status === 'ready' || step.status === 'waiting' || step.status === 'blocked') && (
        <Button
          size="xs"
          variant="outline"
          loading={log.isPending}
          onClick={() => log.mutate({ kind: 'started', step })}
        >
          Start
        </Button>
      )}
      {step.status === 'now' && (
        <Button size="xs" loading={log.isPending} onClick={() => log.mutate({ kind: 'done', step })}>
          Done
        </Button>
      )}
      {(step.status === 'done' || step.status === 'drying' || step.status === 'now') && (
        <button type="button" className="word" onClick={() => log.mutate({ kind: 'undone', step })}>
          Not done after all
        </button>
      )}
    </div>
  );
}
