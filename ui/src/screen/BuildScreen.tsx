import { Button, Modal } from '@mantine/core';
import { lazy, Suspense, useCallback, useEffect, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { type Plan, type View, words } from '../api/client';
import { seeking } from '../api/provisional';
import { useBuild } from '../api/useBuild';
import { GearHandles, PartHandles } from '../form/Handles';
import { useFormWork } from '../form/useFormWork';
import { useGrips } from '../form/useGrips';
import { LightSwitch } from '../LightSwitch';
import { PhotoPlate } from '../measure/PhotoPlate';
import { usePhotoWork } from '../measure/usePhotoWork';
import { CoreMark } from '../paint/CoreMark';
import { PinHandles } from '../paint/Pins';
import { TouchMarks } from '../paint/Touches';
import type { Spot } from '../paint/useFate';
import { useMarking } from '../paint/useMarking';
import { usePutting } from '../paint/useMarkings';
import { usePins } from '../paint/useScheme';
import { PathLine } from '../path/PathLine';
import { Frame, usePlateBox } from '../plate/Frame';
import { Plate } from '../plate/Plate';
import { firstRoom, isWide, keeps, readWay, stageOf, wayTo } from '../room/stages';
import { Rule } from '../rule/Rule';
import { Tray } from '../tray/Tray';
import { NextAct } from '../why/NextAct';
import classes from './BuildScreen.module.css';
import { Film, type Held } from './Film';
import { Legend } from './Legend';
import { lookOf } from './looked';
import { Middle } from './Middle';
import { States } from './States';
import { Unplanned } from './Unplanned';
import { usePicking } from './usePicking';
import { usePlaying } from './usePlaying';

/** Fetched when it is asked for: it is larger than all the rest. */
const Turning = lazy(() => import('../turn/Turning'));

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
  const params = useParams();
  const id = params.id ?? '';
  const navigate = useNavigate();
  const tools = useBuild(id);
  const { state, edit, undo, stale } = tools;
  const [stood, setStood] = useState<string>();
  const pins = usePins(tools);
  const marks = useMarking(tools);
  const puts = usePutting(tools);
  const { setShows } = pins;
  const [zone, setZone] = useState<string>();
  const [marked, setMarked] = useState<string[]>([]);
  const [help, setHelp] = useState(false);
  const [sizing, setSizing] = useState<string>();
  const plan = state.data?.plan;
  const work = usePhotoWork(tools, state.data);
  const form = useFormWork(tools, state.data);
  const view = usePlateBox(plan);
  const [turning, setTurning] = useState(false);
  const [seen, setSeen] = useState<number>();
  const [layer, setLayer] = useState<string>();
  const [spot, setSpot] = useState<Spot>();
  const [held, setHeld] = useState<Held>();
  const [rowed, setRowed] = useState(false);
  const index = (step?: string) => plan?.steps.findIndex((s) => s.id === step) ?? -1;
  const next = index(plan?.stand.next);
  const found = index(stood);
  const at = found >= 0 ? found : next >= 0 ? next : (plan?.steps.length ?? 1) - 1;

  const way = readWay(params.stage, params.room);
  const stage = plan?.steps[at]?.stage;
  const inStage = way?.stage ?? stageOf(stage);
  const inRoom = way?.room ?? firstRoom(inStage);
  const stays = way !== undefined && keeps.includes(way.room);
  /** Going along the path opens the room of the stage; an edit that moves the path does not. */
  const standOn = useCallback(
    (step: Plan['steps'][number] | undefined) => {
      setStood(step?.id);
      setShows(undefined);
      setLayer(undefined);
      if (step?.stage !== stage && !stays) {
        navigate(`/builds/${id}`);
      }
    },
    [stage, stays, id, navigate, setShows],
  );
  // Who opens the scheme wants to see it; who stands on a step, that step.
  const shows = pins.shows ?? (way?.room === 'Scheme' && !stood ? 'on' : 'now');
  const asked = {
    Scheme: shows === 'now' ? undefined : shows,
    Layers: layer,
    Worth: layer ?? (way && !stood ? ('end' as const) : undefined),
    'Core sample': way && !stood ? ('end' as const) : undefined,
    Story: way && !stood ? ('end' as const) : undefined,
    Markings: stood ? undefined : state.data?.build.layers.find((l) => l.kind === 'decals')?.id,
  }[inRoom as string];
  const look = lookOf(state.data, at, asked);
  const near = [plan?.steps[at + 1]?.look, plan?.steps[at - 1]?.look].filter((l): l is string => !!l && l !== look);
  const grips = useGrips(id, inRoom === 'Body' ? form.part : undefined, state.data?.revision ?? 0);

  // What is shaped is shown large: the view that its points lie in.
  const shaped =
    inRoom === 'Gear'
      ? 'left'
      : inRoom === 'Body' && state.data && form.part
        ? (['left', 'top'] as const).find((s) => grips.data?.some((g) => g.side === s))
        : undefined;
  const { setBox } = view;
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when another view is shaped, not at each edit
  useEffect(() => {
    const v = plan?.views.find((v) => v.side === shaped);
    const m = (v?.width ?? 0) * 0.07;
    setBox(v ? [v.x - m, v.y - m, v.width + 2 * m, v.height + 2 * m] : undefined);
  }, [shaped, plan?.sheet.width]);

  const picking = usePicking(
    id,
    tools,
    form,
    inRoom === 'Body',
    inRoom === 'Scheme' ? pins : undefined,
    inRoom === 'Core sample' ? setSpot : undefined,
    inRoom === 'Layers' ? marks : undefined,
    inRoom === 'Markings' || inRoom === 'Scheme' ? puts : undefined,
  );
  const standAt = useCallback((i: number) => standOn(plan?.steps[i]), [plan, standOn]);
  const film = usePlaying(plan, at, standAt);
  const holding = plan?.steps.find((s) => s.id === held?.step);

  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      const typing =
        e.target instanceof HTMLElement && e.target.closest('input, textarea, select, [role=slider], [role=dialog]');
      if (typing || e.ctrlKey || e.metaKey || e.altKey || !plan) {
        return;
      }
      const stand = (i: number) => standOn(plan.steps[Math.min(Math.max(i, 0), plan.steps.length - 1)]);
      const walk: Record<string, number> = { arrowright: 1, arrowleft: -1 };
      const by = walk[e.key.toLowerCase()];
      const act: Record<string, () => void> = {
        Escape: () => setZone(undefined),
        n: () => standOn(undefined),
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
  }, [plan, at, id, navigate, undo, standOn]);

  const shaping = inRoom === 'Body' || inRoom === 'Gear';
  if (!state.data || !plan) {
    return (
      <div className={classes.wait}>
        <p role={state.error ? 'alert' : 'status'}>{state.error ? words(state.error) : 'Laying the plan …'}</p>
        {state.error && <Link to="/">Home: all builds</Link>}
      </div>
    );
  }
  if (plan.trouble) {
    return <Unplanned plan={plan} trouble={plan.trouble} tools={tools} />;
  }
  const data = state.data;
  const shownChanges = seen === data.revision || shaping ? [] : (data.changes ?? []);
  const over =
    inRoom === 'Body'
      ? (v: View) => <PartHandles view={v} data={data} work={form} grips={grips.data} />
      : inRoom === 'Gear'
        ? (v: View) => <GearHandles view={v} data={data} work={form} />
        : inRoom === 'Scheme'
          ? (v: View) => <PinHandles view={v} data={data} tools={tools} />
          : inRoom === 'Core sample'
            ? (v: View) => <CoreMark view={v} data={data} look={look} spot={spot} zone={zone} />
            : inRoom === 'Layers'
              ? (v: View) => <TouchMarks view={v} data={data} layer={layer} />
              : undefined;
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
          <strong>Next:</strong> <NextAct stand={plan.stand} />
          {plan.provisional && <span role="status"> {seeking}</span>}
        </p>
        <button type="button" className="word" onClick={() => undo.mutate()} disabled={state.data.revision < 2}>
          Undo
        </button>
        <a
          className={classes.link}
          href={`/api/builds/${id}/sheets/views.pdf?look=${look}`}
          target="_blank"
          rel="noreferrer"
        >
          Print 1:1
        </a>
        <Link className={classes.link} to={`/builds/${id}/diary`}>
          Diary
        </Link>
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
      <PathLine plan={plan} at={at} stage={inStage} onStand={standAt}>
        <Film
          plan={plan}
          at={at}
          held={held}
          onHold={setHeld}
          rowed={rowed}
          onRow={() => setRowed(!rowed)}
          playing={film.playing}
          onPlay={film.play}
        />
      </PathLine>
      <Middle wide={isWide(inRoom)}>
        <section className={classes.plate} aria-label="The plate">
          {(stale || trouble) && (
            <p role="alert" className={classes.stale}>
              {stale ?? trouble}
            </p>
          )}
          {shownChanges.length > 0 && (
            <div role="status" className={classes.changed}>
              <ul>
                {shownChanges.slice(0, 2).map((c) => (
                  <li key={c.words} title={c.words}>
                    {c.words}
                  </li>
                ))}
              </ul>
              {shownChanges.length > 2 && (
                <details>
                  <summary>and {shownChanges.length - 2} more</summary>
                  <ul>
                    {shownChanges.slice(2).map((c) => (
                      <li key={c.words}>{c.words}</li>
                    ))}
                  </ul>
                </details>
              )}
              <button type="button" className="word" onClick={() => setSeen(data.revision)}>
                seen
              </button>
            </div>
          )}
          {form.fault && shaping && (
            <p role="alert" className={classes.stale}>
              {form.fault}{' '}
              <button type="button" className="word" onClick={form.leave}>
                leave it as it was
              </button>
            </p>
          )}
          {inRoom === 'Photos' ? (
            <PhotoPlate build={id} work={work} />
          ) : rowed ? (
            <States
              plan={plan}
              at={at}
              onStand={(i) => {
                standAt(i);
                setRowed(false);
              }}
            />
          ) : (
            <>
              {picking.said && (
                <p role="status" className={classes.hint}>
                  {picking.said}{' '}
                  <button type="button" className="word" onClick={picking.stop}>
                    done
                  </button>
                </p>
              )}
              <Frame view={view} turning={turning} onTurn={() => setTurning(!turning)}>
                {turning ? (
                  <Suspense fallback={<p role="status">Fetching what turns …</p>}>
                    <Turning plan={plan} look={look} zone={zone} onZone={setZone} />
                  </Suspense>
                ) : (
                  <Plate
                    plan={plan}
                    look={look}
                    near={near}
                    held={holding && held ? { look: holding.look, seam: held.seam } : undefined}
                    onShown={film.onShown}
                    zone={zone}
                    marked={marked}
                    onZone={setZone}
                    box={view.box}
                    size={inRoom === 'Sizes' || inRoom === 'Kit check' ? sizing : undefined}
                    cables={inRoom === 'Cables'}
                    onPick={picking.pick}
                    ends={picking.from}
                    quiet={shaping}
                    over={over}
                  />
                )}
              </Frame>
              <Legend
                plan={plan}
                tools={tools}
                zone={zone}
                onZone={(z) => {
                  setZone(z);
                  setSpot(undefined);
                }}
              />
            </>
          )}
        </section>
        <Tray
          tools={tools}
          data={state.data}
          at={at}
          zone={zone}
          onZone={setZone}
          onMark={setMarked}
          onLayer={setLayer}
          marks={marks}
          puts={puts}
          stage={inStage}
          room={inRoom}
          sizing={sizing}
          onSizing={setSizing}
          onPlace={picking.place}
          picking={picking.cabling}
          onPicking={picking.setCabling}
          work={work}
          form={form}
          pins={{ ...pins, shows }}
          look={look}
          spot={spot}
        />
      </Middle>
      <Rule
        scale={plan.scale}
        onSend={async (name, real) => {
          await edit.mutateAsync([
            { op: 'dimension', dimension: { group: 'fittings', name, real, source: 'the rule' } },
          ]);
          navigate(wayTo(id, 'Measure', 'Sizes'));
        }}
      />
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
