import { useEffect, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { type Step, words } from '../api/client';
import { useBuild } from '../build/useBuild';
import { clock, left } from '../clock';
import { Hands } from '../form/Hands';
import { handed, standing } from '../tray/StepCard';
import classes from './BenchScreen.module.css';

/** One step, very large, to be read from an arm's length with a brush in hand. */
export function BenchScreen() {
  const id = useParams().id ?? '';
  const navigate = useNavigate();
  const { state, log } = useBuild(id);
  const [told, setTold] = useState('');
  const plan = state.data?.plan;
  const open = plan?.steps.filter((s) => s.status !== 'done' && s.status !== 'drying') ?? [];
  const step = open.find((s) => s.id === plan?.stand.next) ?? open[0];
  const drying = plan?.steps.filter((s) => s.status === 'drying') ?? [];
  const then = [...open]
    .filter((s) => s !== step && s.spans[0])
    .sort((a, b) => (a.spans[0]?.from ?? '').localeCompare(b.spans[0]?.from ?? ''))
    .slice(0, 2);
  const tick = (of: Step) => {
    const kind = of.status === 'now' ? 'done' : 'started';
    log.mutate({ kind, step: of }, { onSuccess: () => setTold(`${of.title}: ${kind === 'done' ? 'done' : 'begun'}.`) });
  };
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (e.ctrlKey || e.metaKey || e.altKey) {
        return;
      }
      if (e.key === 'Escape' || e.key === 'b') {
        navigate(`/builds/${id}`);
      }
      if (
        e.key === 'Enter' &&
        step &&
        !log.isPending &&
        !(e.target instanceof HTMLButtonElement) &&
        !(e.target instanceof HTMLAnchorElement)
      ) {
        tick(step);
      }
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  });
  if (!plan) {
    return <p className={classes.wait}>{state.error ? words(state.error) : 'Fetching the step …'}</p>;
  }
  return (
    <div className={classes.screen}>
      <header className={classes.head}>
        <span>
          {plan.name}, {plan.scale}
        </span>
        <span role="status">{told}</span>
        <Link to={`/builds/${id}`} className={classes.back}>
          Back to the plate
        </Link>
      </header>
      {step ? (
        <main className={classes.main}>
          <p className={classes.standing} data-status={step.status}>
            {standing(step, plan)}
          </p>
          <h1 className={classes.title}>{step.title}</h1>
          <div className={classes.facts}>
            {step.hex && (
              <svg
                className={classes.swatch}
                viewBox="0 0 10 10"
                preserveAspectRatio="none"
                role="img"
                aria-label={`Swatch ${step.hex}`}
              >
                <rect width="10" height="10" fill={step.hex} />
              </svg>
            )}
            <dl>
              <Fact name="Jar" text={step.product} />
              <Fact
                name="Where"
                text={step.id.startsWith('clean') ? undefined : step.zones?.join(', ') || 'the whole vehicle'}
              />
              <Fact name="Amount" text={step.amount} />
              <Fact name="Airbrush" text={step.air} />
              <Fact name="Work" text={step.work} />
              <Fact name="Time" text={`${step.minutes} min`} />
              <Fact name="Then it dries" text={step.dries.join(', ')} />
            </dl>
          </div>
          {step.status === 'waiting' && <p className={classes.reason}>{step.why}</p>}
          {step.cautions.map((c) => (
            <p key={c} className={classes.caution}>
              {c}
            </p>
          ))}
          {state.data && handed(step) && (
            <div className={classes.hands}>
              <Hands data={state.data} />
            </div>
          )}
          {log.error && (
            <p role="alert" className={classes.caution}>
              {words(log.error)}
            </p>
          )}
          <div className={classes.acts}>
            <button
              type="button"
              className={classes.act}
              data-now={step.status === 'now' || undefined}
              disabled={log.isPending}
              onClick={() => tick(step)}
            >
              {step.status === 'now' ? 'Done' : step.status === 'waiting' ? 'Start all the same' : 'Start'}
            </button>
            <span className={classes.hint}>Enter</span>
          </div>
        </main>
      ) : (
        <main className={classes.main}>
          <h1 className={classes.title}>Every step is done.</h1>
        </main>
      )}
      <footer className={classes.foot}>
        {drying.map((s) => (
          <p key={s.id} className={classes.drying}>
            <strong>{s.title}</strong> dries another {left(plan.asOf, s.until ?? plan.asOf)}, until{' '}
            {clock(s.until ?? plan.asOf)}
          </p>
        ))}
        {then.map((s) => (
          <p key={s.id}>
            Then <strong>{s.title}</strong>, {clock(s.spans[0]?.from ?? '')}
          </p>
        ))}
      </footer>
    </div>
  );
}

function Fact({ name, text }: { name: string; text?: string }) {
  return text ? (
    <div>
      <dt>{name}</dt>
      <dd>{text}</dd>
    </div>
  ) : null;
}
