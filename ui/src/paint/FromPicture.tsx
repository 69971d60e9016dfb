import { Button, FileButton, Modal, SegmentedControl, Select } from '@mantine/core';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type BuildState, type Pattern, type Schemas, type View, words } from '../api/client';
import { send, type Uploaded } from '../api/send';
import { viewNames } from '../plate/Plate';
import { pictureUrl } from '../plate/usePlate';
import { Marked, type Place } from '../room/Marked';
import { readPicture, type Shown } from '../room/picture';
import classes from '../room/room.module.css';
import { TakeOut } from '../room/TakeOut';
import own from './Scheme.module.css';
import type { Camouflage } from './useScheme';

type Side = View['side'];
/** Points to a millimetre of the scheme beside its picture. */
const fine = 4;
type Far = NonNullable<Schemas['Trace']['far']>;

const fars: { value: Far; label: string }[] = [
  { value: 'mirrored', label: 'mirrored' },
  { value: 'turned', label: 'turned round' },
  { value: '', label: 'free' },
];

interface FromPictureProps {
  data: BuildState;
  scheme: Pattern;
  told?: Camouflage;
  onTake: (scheme: Pattern) => void;
  /** What the vehicle looks like with the scheme alone. */
  look?: string;
}

/** The scheme of one small picture, over the whole vehicle. */
export function FromPicture({ data, scheme, told, onTake, look }: FromPictureProps) {
  const [shown, setShown] = useState<Shown & { file: File }>();
  const [unread, setUnread] = useState(false);
  /** Pictures that did not come along: an export of a build carries none. */
  const [away, setAway] = useState<string[]>([]);
  const traces = scheme.traces ?? [];
  return (
    <section aria-label="From a picture" className={classes.form}>
      <div className={classes.row}>
        <h3>From a picture</h3>
        <FileButton
          accept="image/png,image/jpeg"
          onChange={async (file) => {
            try {
              setShown(file ? { ...(await readPicture(file)), file } : undefined);
              setUnread(false);
            } catch {
              setUnread(true);
            }
          }}
        >
          {(props) => (
            <Button size="xs" variant="outline" {...props}>
              Open a picture
            </Button>
          )}
        </FileButton>
      </div>
      {unread && (
        <p role="alert" className={classes.error}>
          That file is no picture that can be read: save it as JPEG or PNG.
        </p>
      )}
      {traces.length === 0 && (
        <p className={classes.mute}>
          One side of a leaflet or a photograph is enough: the rest is laid to agree with it.
        </p>
      )}
      {traces.map((t, i) => (
        <div key={t.side} className={classes.row}>
          <span>{viewNames[t.side]} is read; the far side:</span>
          <Select
            aria-label={`Far side of ${viewNames[t.side]}`}
            w={130}
            allowDeselect={false}
            data={fars}
            value={t.far ?? ''}
            onChange={(far) =>
              onTake({ ...scheme, traces: traces.map((o, k) => (k === i ? { ...o, far: (far ?? '') as Far } : o)) })
            }
          />
          <TakeOut
            what={`the picture of ${viewNames[t.side]}`}
            onTake={() => onTake({ ...scheme, traces: traces.filter((_, k) => k !== i) })}
          />
        </div>
      ))}
      {look &&
        traces.map(
          (t) =>
            t.photo &&
            !away.includes(t.photo) && (
              <section key={t.side} aria-label={`Beside its picture: ${viewNames[t.side]}`} className={own.beside}>
                <figure>
                  <img
                    src={`/api/builds/${data.build.id}/files/${t.photo}`}
                    alt={`${viewNames[t.side]}, as it was read`}
                    onError={() => setAway([...away, t.photo ?? ''])}
                  />
                  <figcaption>the picture</figcaption>
                </figure>
                <figure>
                  <img src={pictureUrl(data.build.id, look, t.side, fine)} alt={`The scheme, ${viewNames[t.side]}`} />
                  <figcaption>the scheme, once it is on</figcaption>
                </figure>
              </section>
            ),
        )}
      {told && told.seen.length > 0 && (
        <>
          <p className={classes.mute}>
            Seen on pictures:{' '}
            {told.seen.map((s) => `${data.plan.places[s.part] ?? s.part} ${Math.round(100 * s.share)} %`).join(', ')}.
            The rest is guessed.
          </p>
          <Guessed data={data} scheme={scheme} />
        </>
      )}
      {shown && (
        <Modal opened onClose={() => setShown(undefined)} size="min(1240px, 96vw)" title="A scheme from a picture">
          <Aligning
            data={data}
            scheme={scheme}
            shown={shown}
            onTake={(p) => {
              setShown(undefined);
              onTake(p);
            }}
          />
        </Modal>
      )}
    </section>
  );
}

/** Both sides, hatched where no picture tells. */
function Guessed({ data, scheme }: { data: BuildState; scheme: Pattern }) {
  const of = (side: Side) => ({
    queryKey: ['guessed', data.build.id, data.revision, side],
    queryFn: () =>
      ask(
        api.POST('/api/builds/{id}/sketches', {
          params: { path: { id: data.build.id } },
          body: { schemes: [scheme], side, wide: 360, guess: true },
        }),
      ),
  });
  const near = useQuery(of('left'));
  const far = useQuery(of('right'));
  return (
    <div className={own.sketches}>
      {[near, far].map(
        (q, i) =>
          q.data?.[0] && (
            <img
              key={i === 0 ? 'left' : 'right'}
              src={`data:image/png;base64,${q.data[0].image}`}
              alt={`${i === 0 ? 'Left' : 'Right'} side, hatched where it is guessed`}
            />
          ),
      )}
    </div>
  );
}

/** Common places on the picture and on the view, then a click for each colour. */
function Aligning({
  data,
  scheme,
  shown,
  onTake,
}: Omit<FromPictureProps, 'told' | 'look'> & { shown: Shown & { file: File } }) {
  const [side, setSide] = useState<Side>('left');
  const [far, setFar] = useState<Far>('mirrored');
  const [pairs, setPairs] = useState<{ pixel: Place; at: Place }[]>([]);
  const [half, setHalf] = useState<Place>();
  const [picking, setPicking] = useState<number>();
  const [picks, setPicks] = useState<(Place | undefined)[]>([]);
  const view = data.plan.views.find((v) => v.side === side);
  const drawn = useQuery({
    queryKey: ['aligning', data.build.id, data.revision, side],
    queryFn: () =>
      ask(
        api.POST('/api/builds/{id}/sketches', {
          params: { path: { id: data.build.id } },
          body: {
            schemes: [{ ...scheme, colours: scheme.colours.slice(0, 1), traces: [], anchors: [] }],
            side,
            wide: 560,
          },
        }),
      ),
  });
  const read = useMutation({
    mutationFn: async () => {
      const told = await ask(
        api.POST('/api/builds/{id}/trace', {
          params: { path: { id: data.build.id } },
          body: {
            image: shown.data,
            side,
            far,
            pairs,
            picks: picks.flatMap((pixel, colour) => (pixel ? [{ pixel, colour }] : [])),
          },
        }),
      );
      const { hash } = await send<Uploaded>(`/api/builds/${data.build.id}/photos`, shown.file, () => {});
      const traces = (told.scheme.traces ?? []).map((t) => (t.side === side ? { ...t, photo: hash } : t));
      return { ...told.scheme, traces, anchors: scheme.anchors };
    },
    onSuccess: onTake,
  });
  const all = picks.filter(Boolean).length;
  const onPicture = (at: Place) => {
    if (picking !== undefined) {
      const next = [...picks];
      next[picking] = at;
      setPicks(next);
      const left = scheme.colours.findIndex((_, i) => !next[i]);
      setPicking(left >= 0 ? left : undefined);
    } else if (pairs.length < 4) {
      setHalf(at);
    }
  };
  const onDrawing = (at: Place) => {
    if (half) {
      setPairs([...pairs, { pixel: half, at }]);
      setHalf(undefined);
    }
  };
  const says =
    picking !== undefined
      ? `Click on ${scheme.colours[picking]?.name} on the picture.`
      : half
        ? 'Now click the same place on the drawing.'
        : pairs.length < 2
          ? 'Click a place on the picture that the drawing has too, such as a wheel’s hub: ' +
            `${2 - pairs.length} more at least, far apart.`
          : pairs.length < 4
            ? 'Three places shear the picture, four bring perspective; or read it now.'
            : 'Four places are marked.';
  return (
    <div className={classes.form}>
      <div className={classes.row}>
        <SegmentedControl
          aria-label="View that the picture shows"
          data={(['left', 'right', 'top', 'front', 'rear'] as const).map((s) => ({ value: s, label: viewNames[s] }))}
          value={side}
          onChange={(s) => {
            setSide(s as Side);
            setPairs([]);
            setHalf(undefined);
          }}
        />
        <Select
          aria-label="The far side"
          w={190}
          allowDeselect={false}
          data={fars.map((f) => ({ ...f, label: `far side ${f.label}` }))}
          value={far}
          onChange={(f) => setFar((f ?? '') as Far)}
        />
      </div>
      <p role="status" className={own.says}>
        {says}
      </p>
      <div className={own.align}>
        <Marked
          name="The picture"
          src={shown.url}
          size={[shown.width, shown.height]}
          marks={[...pairs.map((p) => p.pixel), ...(half ? [half] : [])]}
          dots={picks.flatMap((p, i) => (p ? [{ at: p, fill: scheme.colours[i]?.hex ?? '' }] : []))}
          onClick={onPicture}
        />
        {view && drawn.data?.[0] && (
          <Marked
            name="The drawing"
            src={`data:image/png;base64,${drawn.data[0].image}`}
            size={[view.width, view.height]}
            marks={pairs.map((p) => p.at)}
            onClick={onDrawing}
          />
        )}
      </div>
      <div className={classes.row}>
        {scheme.colours.map((c, i) => (
          <Button
            key={c.name}
            size="xs"
            variant={picking === i ? 'filled' : 'outline'}
            leftSection={<i className={own.chip} style={{ background: c.hex }} />}
            onClick={() => setPicking(picking === i ? undefined : i)}
          >
            {picks[i] ? `${c.name} is picked` : `Pick ${c.name}`}
          </Button>
        ))}
        <button
          type="button"
          className="word"
          onClick={() => {
            setPairs([]);
            setPicks([]);
            setHalf(undefined);
          }}
        >
          begin again
        </button>
      </div>
      <div className={classes.row}>
        <Button
          disabled={pairs.length < 2 || (all > 0 && all < scheme.colours.length)}
          loading={read.isPending}
          onClick={() => read.mutate()}
        >
          Read the scheme
        </Button>
        <span className={classes.mute}>
          {all === 0
            ? 'Colours that are not picked are told apart by themselves.'
            : `${all} of ${scheme.colours.length} colours are picked.`}
        </span>
      </div>
      {read.isError && (
        <p role="alert" className={classes.error}>
          {words(read.error)}
        </p>
      )}
    </div>
  );
}
