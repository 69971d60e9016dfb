import { Button } from '@mantine/core';
import { type BuildState, type Plan, type Step, words } from '../api/client';
import type { BuildTools } from '../api/useBuild';
import { clock, left } from '../clock';
import { Hands } from '../form/Hands';
import { Why } from '../why/Why';
import classes from '../room/room.module.css';

/** What state a step is in, in words. */
export function standing(step: Step, plan: Plan): string {
  const from = step.spans[0]?.from;
  switch (step.status) {
    case 'done':
      return 'Done';
    case 'drying':
      return `Done, drying: ${left(plan.asOf, step.until ?? plan.asOf)} left`;
    case 'now':
      return 'Under way';
    case 'ready':
      return from ? `Ready, laid on ${clock(from)}` : 'Ready';
    case 'waiting':
      return `Wait until ${clock(step.until ?? plan.asOf)}`;
    case 'skipped':
      return 'Left out';
    default:
      return from ? `Laid on ${clock(from)}` : 'Later';
  }
}

/** Steps at which left and right can be put together the wrong way round. */
export const handed = (step: Step) => step.id === 'fit:gear:1' || step.id === 'assemble:tracks:1';

/** The step one stands on: when, why then, what it needs, and the next act. */
export function StepCard({ step, data, log }: { step: Step; data: BuildState; log: BuildTools['log'] }) {
  const { plan } = data;
  const title = (id: string) => plan.steps.find((s) => s.id === id)?.title ?? id;
  const waits = step.after
    .map((a, i) => ({ ...a, room: step.waits?.[i] ?? 0 }))
    .filter((a) => a.room > 0)
    .sort((a, b) => b.room - a.room);
  return (
    <section className={classes.card} aria-label="The step you stand on">
      <h2>{step.title}</h2>
      <p className={classes.status} data-status={step.status}>
        {standing(step, plan)}
      </p>
      {step.failed && (
        <p role="alert" className={classes.error}>
          No place for it: {step.failed}.
        </p>
      )}
      {step.status !== 'done' && step.status !== 'drying' && (
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
                  <strong>{span(a.room)}</strong> after {title(a.from)} ({a.kind}
                  {a.rule ? `, ${a.rule}` : ''}): {a.reason}
                </li>
              ))}
            </ul>
          )}
        </>
      )}
      {step.setUp && (
        <p className={classes.mute}>
          Before it: {step.setUp.strip ? 'strip and clean' : 'flush'} the airbrush, {step.setUp.why}.
        </p>
      )}
      {step.passed && <p className={classes.error}>{step.passed}</p>}
      {step.lessons.map((l) => (
        <p key={l.at + l.note} className={classes.lesson}>
          <strong>Learned on {l.name}:</strong> {l.note}
        </p>
      ))}
      {handed(step) && step.status !== 'done' && <Hands data={data} />}
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
      {log.error && (
        <p role="alert" className={classes.error}>
          {words(log.error)}
        </p>
      )}
      {step.status !== 'done' &&
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
