import type { Step } from '../api/client';
import { clock } from '../clock';
import type { TrayProps } from './Tray';
import classes from './Tray.module.css';
import { WeekForm } from './WeekForm';

/** The evenings ahead; each step with a tail that thins out until the next may follow. */
export function EveningsTray({ data }: TrayProps) {
  const { steps } = data.plan;
  const days = new Map<string, { step: Step; from: string; to: string }[]>();
  for (const step of steps) {
    if (step.status === 'done' || step.status === 'drying') {
      continue;
    }
    for (const span of step.spans) {
      const day = span.from.slice(0, 10);
      days.set(day, [...(days.get(day) ?? []), { step, ...span }]);
    }
  }
  const list = [...days.entries()].sort(([a], [b]) => a.localeCompare(b));
  return (
    <section aria-label="Evenings">
      {list.length === 0 && <p className={classes.mute}>Nothing is left to lay.</p>}
      {list.map(([day, acts]) => (
        <div key={day} className={classes.evening}>
          <strong>{clock(`${day}T00:00`, 'day')}</strong>
          <ul>
            {acts
              .sort((a, b) => a.from.localeCompare(b.from))
              .map((a) => (
                <li key={a.step.id + a.from}>
                  {clock(a.from, 'time')}–{clock(a.to, 'time')} {a.step.title}
                  <Tail steps={steps} step={a.step} />
                </li>
              ))}
          </ul>
        </div>
      ))}
      <WeekForm build={data.build.id} />
    </section>
  );
}

/** The longest wait that follows a step, drawn at 4 px an hour. */
function Tail({ steps, step }: { steps: Step[]; step: Step }) {
  const wait = Math.max(
    0,
    ...steps.flatMap((s) => s.after.flatMap((a, i) => (a.from === step.id ? [s.waits?.[i] ?? 0] : []))),
  );
  if (wait <= 0) {
    return null;
  }
  const hours = wait / 60;
  const length = Math.min(260, 6 + hours * 4);
  return (
    <svg
      className={classes.tail}
      viewBox="0 0 270 12"
      preserveAspectRatio="xMinYMid meet"
      role="img"
      aria-label={`dries ${hours.toFixed(1)} h`}
    >
      <path d={`M0 2H8L${8 + length} 6 8 10H0z`} fill="var(--cold)" fillOpacity="0.55" />
      <rect width="8" height="12" fill="var(--ink)" />
    </svg>
  );
}
