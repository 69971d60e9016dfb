import { Button, Modal } from '@mantine/core';
import { useEffect, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { words } from '../api/client';
import { LightSwitch } from '../LightSwitch';
import { PathLine } from '../path/PathLine';
import { coatAt, Plate } from '../plate';
import { Rule } from '../rule/Rule';
import { Tray } from '../tray/Tray';
import classes from './BuildScreen.module.css';
import { useBuild } from './useBuild';

const keys = [
  ['/', 'the rule: type a length'],
  ['← →', 'walk along the path'],
  ['n', 'stand on what is next'],
  ['b', 'bench mode'],
  ['u', 'take the last change back'],
  ['h', 'home'],
  ['?', 'this list'],
];

/** The path above, the plate in the middle, the tray at the right, the rule below. */
export function BuildScreen() {
  const id = useParams().id ?? '';
  const navigate = useNavigate();
  const tools = useBuild(id);
  const { state, undo, stale } = tools;
  const [stood, setStood] = useState<string>();
  const [zone, setZone] = useState<string>();
  const [marked, setMarked] = useState<string[]>([]);
  const [help, setHelp] = useState(false);
  const plan = state.data?.plan;
  const index = (step?: string) => plan?.steps.findIndex((s) => s.id === step) ?? -1;
  const next = index(plan?.stand.next);
  const found = index(stood);
  const at = found >= 0 ? found : next >= 0 ? next : (plan?.steps.length ?? 1) - 1;

  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      const typing =
        e.target instanceof HTMLElement && e.target.closest('input, textarea, select, [role=slider], [role=dialog]');
      if (typing || e.ctrlKey || e.metaKey || e.altKey || !plan) {
        return;
      }
      const stand = (i: number) => setStood(plan.steps[Math.min(Math.max(i, 0), plan.steps.length - 1)]?.id);
      const walk: Record<string, number> = { arrowright: 1, arrowleft: -1 };
      const by = walk[e.key.toLowerCase()];
      const act: Record<string, () => void> = {
        n: () => setStood(undefined),
        b: () => navigate(`/builds/${id}/bench`),
        u: () => undo.mutate(),
        h: () => navigate('/'),
        '?': () => setHelp(true),
      };
      if (by) {
        e.preventDefault();
        stand(at + by);
      }
      if (act[e.key]) {
        e.preventDefault();
        act[e.key]?.();
      }
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [plan, at, id, navigate, undo]);

  if (!state.data || !plan) {
    return (
      <div className={classes.wait}>
        <p role={state.error ? 'alert' : 'status'}>{state.error ? words(state.error) : 'Laying the plan …'}</p>
        {state.error && <Link to="/">Home: all builds</Link>}
      </div>
    );
  }
  const trouble = undo.error && !stale ? words(undo.error) : undefined;
  return (
    <div className={classes.screen}>
      <header className={classes.head}>
        <Link to="/" className={classes.home} aria-label="Home: all builds">
          Cinder Path
        </Link>
        <h1>{plan.name}</h1>
        <span className={classes.scale}>{plan.scale}</span>
        <p className={classes.act}>
          <strong>Next:</strong> {plan.stand.act}
        </p>
        <button type="button" className="word" onClick={() => undo.mutate()} disabled={state.data.revision < 2}>
          Undo
        </button>
        <a className={classes.link} href={`/api/builds/${id}/sheets/views.pdf`} target="_blank" rel="noreferrer">
          Print 1:1
        </a>
        <a className={classes.link} href={`/api/builds/${id}/export`} download>
          Export
        </a>
        <LightSwitch />
        <button type="button" className="word" onClick={() => setHelp(true)} aria-label="Keys">
          ?
        </button>
        <Button component={Link} to={`/builds/${id}/bench`}>
          Bench
        </Button>
      </header>
      <PathLine plan={plan} at={at} onStand={(i) => setStood(plan.steps[i]?.id)} />
      <main className={classes.middle}>
        <section className={classes.plate} aria-label="The plate">
          {(stale || trouble) && (
            <p role="alert" className={classes.stale}>
              {stale ?? trouble}
            </p>
          )}
          <Plate plan={plan} coat={coatAt(plan, at)} zone={zone} marked={marked} onZone={setZone} />
          <Legend plan={plan} zone={zone} />
        </section>
        <Tray tools={tools} data={state.data} at={at} zone={zone} onZone={setZone} onMark={setMarked} />
      </main>
      <Rule scale={plan.scale} />
      <Modal opened={help} onClose={() => setHelp(false)} title="Keys" size="sm">
        <dl className={classes.keys}>
          {keys.map(([key, what]) => (
            <div key={key}>
              <dt>{key}</dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
      </Modal>
    </div>
  );
}

/** The colours with their shares; of the picked zone where one is picked. */
function Legend({
  plan,
  zone,
}: {
  plan: NonNullable<ReturnType<typeof useBuild>['state']['data']>['plan'];
  zone?: string;
}) {
  const of = plan.zones.find((z) => z.zone === zone);
  return (
    <p className={classes.legend}>
      <span>{zone ?? 'Whole vehicle'}</span>
      {plan.colours.map((c, i) => (
        <span key={c.name} className={classes.swatchLine}>
          <svg width="22" height="14" aria-hidden="true">
            <rect width="22" height="14" fill={c.hex} stroke="#141414" strokeWidth="0.6" />
          </svg>
          {c.name} {(100 * (of ? (of.shares[i] ?? 0) : c.share)).toFixed(1)} %
        </span>
      ))}
      {of && <span>{of.areaCm2.toFixed(1)} cm² on the model</span>}
    </p>
  );
}
