import { useEffect, useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { type Step, words } from '../api/client';
import { useBuild } from '../api/useBuild';
import { useEvenings } from '../api/useLibrary';
import { clock } from '../clock';
import { Hands } from '../form/Hands';
import { handed, over, standing } from '../path/standing';
import { Told } from '../room/Told';
import classes from './BenchScreen.module.css';
import { Gather, Jot, Trouble } from './Panels';
import { Places } from './Places';
import { Sides } from './Sides';
import { counted, useJotted, useNow, useRinging, warning } from './useBench';

type Panel = 'gather' | 'jot' | 'trouble' | 'sides';

const open = (s: Step) => !over(s);

/** One step, very large, to be read from an arm's length with a brush in hand. */
export function BenchScreen() {
  const id = useParams().id ?? '';
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const { state, log } = useBuild(id);
  const evenings = useEvenings();
  const [told, setTold] = useState<{ words: string; changes: string[] }>({ words: '', changes: [] });
  const [panel, setPanel] = useState<Panel>();
  const now = useNow();
  const plan = state.data?.plan;
  // The hands that spray one build watch the windows of the others.
  const running = [...(plan?.timers ?? []), ...(evenings.data?.timers ?? []).filter((t) => t.build !== id)].sort(
    (a, b) => Date.parse(a.at) - Date.parse(b.at),
  );
  const ringing = useRinging(running, now);
  const lines = (evenings.data?.tonight.lines ?? []).filter((l) => !l.setUp);
  const wanted = search.get('step');
  const step =
    plan?.steps.find((s) => s.id === wanted && open(s)) ??
    plan?.steps.find((s) => s.id === plan.stand.next) ??
    plan?.steps.find(open);
  const jot = useJotted(`${id} ${step?.id ?? ''}`);
  const say = (what: string) => (next: { changes?: { words: string }[] }) =>
    setTold({ words: what, changes: (next.changes ?? []).map((c) => c.words) });
  const tick = (of: Step) => {
    if (log.isPending) {
      return;
    }
    const kind = of.status === 'now' ? 'done' : 'started';
    log.mutate(
      { kind, step: of, more: kind === 'done' ? jot.entry(of) : undefined },
      {
        onSuccess: (next) => {
          say(`${of.title}: ${kind === 'done' ? 'done' : 'begun'}.`)(next);
          if (kind === 'done') {
            jot.drop();
            if (wanted) {
              navigate(`/builds/${id}/bench`, { replace: true });
            }
          }
        },
      },
    );
  };
  /** Along tonight's steps, whichever build they belong to. */
  const go = (by: number) => {
    const at = lines.findIndex((l) => l.build === id && l.task === step?.id);
    const next = lines[Math.min(Math.max(at + by, 0), lines.length - 1)];
    if (next) {
      navigate(`/builds/${next.build}/bench?step=${encodeURIComponent(next.task)}`);
    }
  };
  const twoSided = step?.layer !== undefined && step.sides.includes('left') && step.sides.includes('right');
  const toggle = (p: Panel) => setPanel(panel === p ? undefined : p);
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      const typing = e.target instanceof HTMLElement && e.target.closest('input, textarea, select');
      if (e.key === 'Escape') {
        if (panel) {
          setPanel(undefined);
        } else {
          navigate(`/builds/${id}`);
        }
        return;
      }
      if (typing || e.ctrlKey || e.metaKey || e.altKey || !step) {
        return;
      }
      const onButton = e.target instanceof HTMLButtonElement || e.target instanceof HTMLAnchorElement;
      const check = step.checks[Number(e.key) - 1];
      if (e.key === 'Enter' && !onButton) {
        tick(step);
      } else if (e.key === 'b') {
        navigate(`/builds/${id}`);
      } else if (e.key === 'g') {
        toggle('gather');
      } else if (e.key === 'n') {
        e.preventDefault();
        toggle('jot');
      } else if (e.key === 's' && twoSided) {
        toggle('sides');
      } else if (e.key === 'm') {
        toggle('trouble');
      } else if (e.key === 'ArrowRight' || e.key === 'ArrowLeft') {
        go(e.key === 'ArrowRight' ? 1 : -1);
      } else if (check) {
        mark(check);
      }
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  });
  if (!plan || !state.data) {
    return <p className={classes.wait}>{state.error ? words(state.error) : 'Fetching the step …'}</p>;
  }
  const turns = (step?.forecast ?? []).filter((f) => f.from && f.to);
  const mark = (check: string) =>
    jot.set({
      checks: jot.jotted.checks.includes(check)
        ? jot.jotted.checks.filter((c) => c !== check)
        : [...jot.jotted.checks, check],
    });
  const timers = running.filter((t) => Date.parse(t.at) > now - 60_000);
  return (
    <div className={classes.screen}>
      <header className={classes.head}>
        <span>
          {plan.name}, {plan.scale}
        </span>
        <span role="status" className={classes.told}>
          {told.words}
        </span>
        <nav className={classes.panels}>
          <button type="button" aria-expanded={panel === 'gather'} onClick={() => toggle('gather')}>
            Gather <kbd>g</kbd>
          </button>
          <button type="button" aria-expanded={panel === 'jot'} onClick={() => toggle('jot')}>
            Note <kbd>n</kbd>
          </button>
          <button type="button" aria-expanded={panel === 'trouble'} onClick={() => toggle('trouble')}>
            Mishap <kbd>m</kbd>
          </button>
          {twoSided && (
            <button type="button" aria-expanded={panel === 'sides'} onClick={() => toggle('sides')}>
              Match sides <kbd>s</kbd>
            </button>
          )}
          <Link to={`/builds/${id}`}>Back to the plate</Link>
        </nav>
      </header>
      {ringing.rung && (
        <p role="alert" className={classes.ring}>
          {ringing.rung}{' '}
          <button type="button" className="word" onClick={ringing.hush}>
            heard
          </button>
        </p>
      )}
      {told.changes.length > 0 && (
        <section className={classes.changes} aria-label="What changed in the plan">
          <ul>
            {told.changes.slice(0, 5).map((c) => (
              <li key={c}>{c}</li>
            ))}
          </ul>
          {told.changes.length > 5 && (
            <details>
              <summary>and {told.changes.length - 5} more</summary>
              <ul>
                {told.changes.slice(5).map((c) => (
                  <li key={c}>{c}</li>
                ))}
              </ul>
            </details>
          )}
          <button type="button" className="word" onClick={() => setTold({ words: '', changes: [] })}>
            seen
          </button>
        </section>
      )}
      {step ? (
        <main className={classes.main} data-panel={panel}>
          <div className={classes.step}>
            <p className={classes.standing} data-status={step.status}>
              {standing(step, plan)}
              {step.closes && open(step) && `, to be finished by ${clock(step.closes, 'time')}`}
            </p>
            <h1 className={classes.title}>{step.title}</h1>
            {step.setUp && (
              <p className={classes.reason}>
                First {step.setUp.strip ? 'strip and clean' : 'flush'} the airbrush: {step.setUp.why}.
              </p>
            )}
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
                <Fact name="Where" text={step.where} />
                <Fact name="Place" text={step.room} />
                <Fact name="Amount" text={step.amount} />
                <Fact name="Mix" text={step.mix} />
                <Fact name="Airbrush" text={step.air} />
                <Fact name="It will look" text={(step.forecast ?? []).map((f) => f.words).join('. ')} />
                <Fact name="Work" text={step.work} />
                <Fact name="Time" text={`${step.minutes} min`} />
                <Fact name="Then it dries" text={step.dries.join(', ')} />
              </dl>
            </div>
            {turns.length > 0 && (
              <div className={classes.turns}>
                {turns.map((f) => (
                  <svg key={f.words} viewBox="0 0 120 28" role="img" aria-label={`From ${f.from} to ${f.to}`}>
                    <rect width="50" height="28" fill={f.from} />
                    <path d="M54 14h10m-4-4 4 4-4 4" fill="none" stroke="currentColor" />
                    <rect x="68" width="50" height="28" fill={f.to} />
                  </svg>
                ))}
              </div>
            )}
            {step.card && open(step) && (
              <p className={classes.reason}>
                <a
                  href={`/api/builds/${id}/sheets/trial.pdf?layer=${step.layer}`}
                  target="_blank"
                  rel="noreferrer"
                  className={classes.card}
                >
                  Print the trial card, 1:1
                </a>
              </p>
            )}
            {(step.status === 'waiting' || step.failed) && <p className={classes.reason}>{step.failed ?? step.why}</p>}
            <Told step={step} />
            {step.checks.length > 0 && (
              <ul className={classes.checks} aria-label="To check before going on">
                {step.checks.map((c, i) => (
                  <li key={c}>
                    <label>
                      <input type="checkbox" checked={jot.jotted.checks.includes(c)} onChange={() => mark(c)} />
                      {c} <kbd>{i + 1}</kbd>
                    </label>
                  </li>
                ))}
              </ul>
            )}
            {step.passed && <p className={classes.caution}>{step.passed}</p>}
            {step.lessons.map((l) => (
              <p key={l.at + l.note} className={classes.lesson}>
                <strong>Learned on {l.name}:</strong> {l.note}
              </p>
            ))}
            {step.cautions.map((c) => (
              <p key={c} className={classes.caution}>
                {c}
              </p>
            ))}
            {handed(step) && (
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
              {lines.length > 1 && <span className={classes.hint}>← → tonight's steps</span>}
            </div>
          </div>
          {!panel && step.sides.length > 0 && <Places key={step.id} plan={plan} at={plan.steps.indexOf(step)} />}
          {panel === 'gather' && <Gather evenings={evenings.data} onClose={() => setPanel(undefined)} />}
          {panel === 'jot' && (
            <Jot build={id} step={step} jot={jot} log={log} say={say} onClose={() => setPanel(undefined)} />
          )}
          {panel === 'sides' && (
            <Sides
              key={step.id}
              build={id}
              step={step}
              counted={jot.entry(step).coats}
              log={log}
              say={say}
              onClose={() => setPanel(undefined)}
            />
          )}
          {panel === 'trouble' && (
            <Trouble plan={plan} step={step} log={log} say={say} onClose={() => setPanel(undefined)} />
          )}
        </main>
      ) : (
        <main className={classes.main}>
          <h1 className={classes.title}>Every step is done.</h1>
        </main>
      )}
      <footer className={classes.foot}>
        {timers.length > 0 && (
          <section className={classes.timers} aria-label="Timers">
            {timers.slice(0, 4).map((t) => {
              const left = (Date.parse(t.at) - now) / 1000;
              return (
                <p
                  key={t.build + t.task + t.kind + t.at}
                  className={classes.timer}
                  data-kind={t.kind}
                  data-soon={(t.kind === 'closes' && left <= warning) || undefined}
                >
                  <strong>{left > 0 ? counted(t, now) : 'over'}</strong>
                  <span>
                    {t.title}
                    {t.build === id ? '' : `, ${t.name}`}:{' '}
                    {t.kind === 'closes' ? 'window closes' : t.kind === 'opens' ? t.words : `${t.kind}, ${t.words}`}
                  </span>
                </p>
              );
            })}
            <button type="button" className="word" onClick={ringing.allow}>
              ring for these
            </button>
          </section>
        )}
        <section className={classes.tonight} aria-label="Tonight">
          {lines
            .filter((l) => l.task !== step?.id || l.build !== id)
            .slice(0, 2)
            .map((l) => (
              <p key={l.build + l.task + l.from}>
                Then{' '}
                <Link to={`/builds/${l.build}/bench?step=${encodeURIComponent(l.task)}`}>
                  <strong>{l.title}</strong>
                </Link>
                {l.build !== id ? `, ${l.name}` : ''}, {clock(l.from)}
                {l.oneGo ? ', the colour is in the airbrush already' : ''}
              </p>
            ))}
        </section>
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
