import { useEffect, useRef } from 'react';
import { Link } from 'react-router';
import type { Plan, Step } from '../api/client';
import { clock, left } from '../clock';
import { firstRoom, type Stage, stageNames, wayTo } from '../room/stages';
import classes from './PathLine.module.css';

const said: Record<Step['status'], string> = {
  done: 'done',
  drying: 'drying',
  now: 'under way',
  ready: 'ready',
  waiting: 'waiting',
  blocked: 'later',
  skipped: 'left out',
};

interface PathProps {
  plan: Plan;
  at: number;
  stage: Stage;
  onStand: (index: number) => void;
  /** What stands at the right of the stages. */
  children?: React.ReactNode;
}

/** Every step of the build as one line of cinders, in working order; the stages at its head
 * are the way around. */
export function PathLine({ plan, at, stage, onStand, children }: PathProps) {
  const line = useRef<HTMLDivElement>(null);
  useEffect(() => {
    line.current?.querySelector(`[data-index="${at}"]`)?.scrollIntoView({ block: 'nearest', inline: 'center' });
  }, [at]);
  return (
    <>
      <nav className={classes.stages} aria-label="Stages">
        {stageNames.map((s) => (
          <Link
            key={s}
            className={classes.way}
            to={wayTo(plan.build, s, firstRoom(s))}
            aria-current={s === stage ? 'true' : undefined}
          >
            {s}
          </Link>
        ))}
        {children}
      </nav>
      <nav className={classes.path} aria-label="The path: every step in working order" ref={line}>
        <svg width="0" height="0" aria-hidden="true" className={classes.defs}>
          <defs>
            <pattern id="hatch" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <rect width="5" height="5" fill="var(--raised)" />
              <rect width="2" height="5" fill="var(--cold)" />
            </pattern>
          </defs>
        </svg>
        {plan.steps.map((step, i) => {
          const first = i === 0 || plan.steps[i - 1]?.stage !== step.stage;
          return (
            <button
              type="button"
              key={step.id}
              data-index={i}
              className={classes.step}
              data-status={step.status}
              data-first={first || undefined}
              aria-current={i === at ? 'step' : undefined}
              aria-label={`${step.title}, ${said[step.status]}`}
              title={step.title}
              onClick={() => onStand(i)}
            >
              <span className={classes.stage}>{first ? step.stage : ''}</span>
              <svg viewBox="0 0 40 28" className={classes.cinder} aria-hidden="true">
                <Cinder status={step.status} />
                {i === at && <path d="M14 27.5h12" className={classes.here} />}
              </svg>
              <span className={classes.time}>{when(step, plan)}</span>
            </button>
          );
        })}
      </nav>
    </>
  );
}

function Cinder({ status }: { status: Step['status'] }) {
  switch (status) {
    case 'done':
      return <circle cx="20" cy="14" r="6.5" fill="var(--ink)" />;
    case 'drying':
      return <circle cx="20" cy="14" r="7.5" fill="url(#hatch)" stroke="var(--cold)" strokeWidth="1.6" />;
    case 'now':
      return (
        <>
          <circle cx="20" cy="14" r="11" fill="none" stroke="var(--ember)" strokeWidth="1.5" />
          <circle cx="20" cy="14" r="7.5" fill="var(--ember)" />
        </>
      );
    case 'ready':
      return <circle cx="20" cy="14" r="7" fill="var(--raised)" stroke="var(--ember)" strokeWidth="3" />;
    case 'waiting':
      return (
        <circle
          cx="20"
          cy="14"
          r="7"
          fill="var(--raised)"
          stroke="var(--cold)"
          strokeWidth="2.5"
          strokeDasharray="4 2.4"
        />
      );
    default:
      return <circle cx="20" cy="14" r="5" fill="var(--ground)" stroke="var(--mute)" strokeWidth="1.5" />;
  }
}

function when(step: Step, plan: Plan): string {
  if (step.status === 'drying' && step.until) {
    return left(plan.asOf, step.until);
  }
  if (step.status === 'done' || step.status === 'skipped') {
    return '';
  }
  const span = step.spans[0];
  return step.failed || !span ? '!' : clock(span.from, 'day');
}
