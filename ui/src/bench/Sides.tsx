import { FileButton } from '@mantine/core';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schemas, type Step, words } from '../api/client';
import { Marked, type Place } from '../room/Marked';
import { cardCorners, readPicture, type Shown } from '../room/picture';
import { Why } from '../why/Why';
import classes from './BenchScreen.module.css';
import { Head, type Log, type Say } from './Panels';

/** Marks of a tenth of a millimetre shall show. */
const finest = 2400;

/** What is pointed at, one after the other. */
const asked = [...cardCorners, 'one corner of the patch that is compared', 'its opposite corner'];

interface Shot {
  shown: Shown;
  points: Place[];
}

const names = ['left', 'right'] as const;
type Name = (typeof names)[number];

interface SidesProps {
  build: string;
  step: Step;
  counted?: Schemas['Coats'];
  log: Log;
  say: Say;
  onClose: () => void;
}

/** The same patch of both sides, photographed through the neutral card: which side is short, and of how much. */
export function Sides({ build, step, counted, log, say, onClose }: SidesProps) {
  const [shots, setShots] = useState<Partial<Record<Name, Shot>>>({});
  const [unread, setUnread] = useState(false);
  const told = useMutation({
    mutationFn: ({ left, right }: Record<Name, Shot>) => {
      const side = ({ shown, points }: Shot) => ({
        image: shown.data,
        corners: points.slice(0, 4),
        patch: points.slice(4, 6),
      });
      return ask(
        api.POST('/api/builds/{id}/sides', {
          params: { path: { id: build } },
          body: { look: step.look, layer: step.layer ?? '', left: side(left), right: side(right), coats: counted },
        }),
      );
    },
  });
  const keep = (name: Name, shot: Shot) => {
    const next = { ...shots, [name]: shot };
    setShots(next);
    const { left, right } = next;
    if (left?.points.length === asked.length && right?.points.length === asked.length) {
      told.mutate({ left, right });
    } else {
      told.reset();
    }
  };
  const take = async (name: Name, file: File | null) => {
    if (!file) {
      return;
    }
    try {
      keep(name, { shown: await readPicture(file, finest, 'image/jpeg'), points: [] });
      setUnread(false);
    } catch {
      setUnread(true);
    }
  };
  const a = told.data;
  return (
    <aside className={classes.panel} data-wide aria-label="Match the sides">
      <Head title="Match the sides" onClose={onClose} />
      <p>
        Lay the{' '}
        <a href="/api/shelf/card.pdf" target="_blank" rel="noreferrer">
          neutral card
        </a>{' '}
        on the same panel left and right, so that one colour shows through its hole, and photograph both in the same
        light.
      </p>
      {unread && (
        <p role="alert" className={classes.caution}>
          That file is no picture that can be read. Save it as JPEG or PNG.
        </p>
      )}
      <div className={classes.shots}>
        {names.map((name) => {
          const shot = shots[name];
          const next = asked[shot?.points.length ?? 0];
          return (
            <section key={name} aria-label={`The ${name} side`} data-marked={(shot && !next) || undefined}>
              <FileButton accept="image/png,image/jpeg" onChange={(file) => void take(name, file)}>
                {(props) => (
                  <button type="button" {...props}>
                    {shot ? 'Another photograph' : 'Photograph'} of the {name} side
                  </button>
                )}
              </FileButton>
              {shot && (
                <>
                  <p>
                    {next ? `Click the ${next}.` : 'Marked.'}{' '}
                    {shot.points.length > 0 && (
                      <button type="button" className="word" onClick={() => keep(name, { ...shot, points: [] })}>
                        begin anew
                      </button>
                    )}
                  </p>
                  <Marked
                    name={`Photograph of the ${name} side`}
                    src={shot.shown.url}
                    size={[shot.shown.width, shot.shown.height]}
                    marks={shot.points}
                    patch={next ? undefined : [shot.points[4] ?? [0, 0], shot.points[5] ?? [0, 0]]}
                    onClick={(at) => next && keep(name, { ...shot, points: [...shot.points, at] })}
                  />
                </>
              )}
            </section>
          );
        })}
      </div>
      {told.isPending && <p role="status">Comparing …</p>}
      {told.error && (
        <p role="alert" className={classes.caution}>
          {words(told.error)}
        </p>
      )}
      {a && (
        <section aria-label="How the sides compare">
          {a.words.map((w) => (
            <p key={w} className={classes.verdict}>
              {w}
            </p>
          ))}
          <ul>
            {a.sides.map((s, i) => (
              <li key={names[i]}>
                <svg viewBox="0 0 10 10" className={classes.chip} role="img" aria-label={`Seen ${s.hex}`}>
                  <rect width="10" height="10" fill={s.hex} />
                </svg>{' '}
                {names[i]}:{' '}
                {a.inPasses
                  ? `${s.passes.toFixed(1)} ± ${s.within.toFixed(1)} passes, ${s.filmUm.toFixed(1)} µm`
                  : `${s.marks} marks on ${s.cm2.toFixed(1)} cm², ${s.wideMm.toFixed(2)} mm wide in the middle`}
              </li>
            ))}
          </ul>
          {a.why.slice(0, 1).map((w) => (
            <Why key={w.formula} why={w} name="How the sides were compared">
              {a.ground ? `over ${a.ground}, ${a.passUm.toFixed(1)} µm a pass` : 'by their marks'}
            </Why>
          ))}
          <div className={classes.buttons}>
            <button
              type="button"
              onClick={() =>
                log.mutate(
                  {
                    kind: 'lesson',
                    step,
                    more: {
                      note: a.words.join(' '),
                      measured: a.sides.map((s, i) => ({
                        name: `${a.inPasses ? 'passes' : 'marks to the cm²'} ${names[i]}`,
                        value: (a.inPasses ? s.passes : s.each).toFixed(1),
                      })),
                    },
                  },
                  {
                    onSuccess: (now) => {
                      say('It will come up at the next step of this kind.')(now);
                      onClose();
                    },
                  },
                )
              }
            >
              Keep as a lesson
            </button>
          </div>
        </section>
      )}
    </aside>
  );
}
