import { Button, Checkbox, FileButton, SegmentedControl, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import { type Photo, type PhotoAnswer, words } from '../api/client';
import { send, type Uploaded } from '../api/send';
import { Trouble } from '../api/Trouble';
import type { BuildTools } from '../api/useBuild';
import type { RoomProps } from '../room/props';
import { TakeOut } from '../room/TakeOut';
import { Why } from '../why/Why';
import classes from './Measure.module.css';
import { groups } from './SizeSheet';
import type { PhotoWork } from './usePhotoWork';

interface PhotosProps extends RoomProps {
  work: PhotoWork;
}

/** Measuring on a photograph: what is known, what is measured, how sure. */
export function Photos({ tools, data, work }: PhotosProps) {
  const photos = data.build.photos ?? [];
  const { photo } = work;
  return (
    <section aria-label="Photographs" className={classes.stack}>
      <div className={classes.headRow}>
        {photos.map((p) => (
          <button
            key={p.id}
            type="button"
            className={classes.tab}
            aria-pressed={photo?.id === p.id}
            onClick={() => work.choose(p.id)}
          >
            {p.name}
          </button>
        ))}
        <span className={classes.gap} />
        <Upload id={data.plan.build} photos={photos} tools={tools} onDone={work.choose} />
      </div>
      {!photo && (
        <p>
          A photograph with one thing of known size in it gives the sizes of what lies in the same plane. Open a JPEG or
          PNG of up to 20 MB; it stays with this build.
        </p>
      )}
      {photo && <Marks photo={photo} work={work} tools={tools} />}
    </section>
  );
}

interface UploadProps {
  id: string;
  photos: Photo[];
  tools: BuildTools;
  onDone: (photo: string) => void;
}

function Upload({ id, photos, tools, onDone }: UploadProps) {
  const [share, setShare] = useState<number>();
  const [error, setError] = useState<unknown>();
  const take = async (file: File | null) => {
    if (!file) {
      return;
    }
    setError(undefined);
    try {
      const kept = await send<Uploaded>(`/api/builds/${id}/photos`, file, setShare);
      const same = photos.find((p) => p.hash === kept.hash);
      if (same) {
        // It is on the build already, perhaps without its picture: its marks stay.
        onDone(same.id);
        setShare(undefined);
        return;
      }
      const [w, h] = [kept.width ?? 1, kept.height ?? 1];
      const none = { mm: 0, typed: '' };
      const photo: Photo = {
        id: '',
        name: file.name.replace(/\.[a-z]+$/i, '').slice(0, 60) || 'photograph',
        hash: kept.hash,
        width: w,
        height: h,
        mode: 'corners',
        a: [w * 0.25, h * 0.8],
        b: [w * 0.75, h * 0.8],
        real: none,
        corners: [
          [w * 0.3, h * 0.3],
          [w * 0.7, h * 0.3],
          [w * 0.7, h * 0.6],
          [w * 0.3, h * 0.6],
        ],
        across: none,
        down: none,
        lengths: [],
      };
      const next = await tools.edit.mutateAsync([{ op: 'photo', photo }]);
      onDone(next.build.photos?.at(-1)?.id ?? '');
    } catch (e) {
      setError(e);
    }
    setShare(undefined);
  };
  return (
    <>
      <FileButton accept="image/jpeg,image/png" onChange={take}>
        {(props) => (
          <Button size="xs" variant="default" {...props}>
            Open a photograph
          </Button>
        )}
      </FileButton>
      {share !== undefined && <progress max={1} value={share} aria-label="Sending the photograph" />}
      <Trouble error={error} />
    </>
  );
}

function Marks({ photo, work, tools }: { photo: Photo; work: PhotoWork; tools: BuildTools }) {
  const { answer, error, change, placing, place } = work;
  const size = (key: 'real' | 'across' | 'down', label: string) => (
    <Text
      key={`${photo.id} ${key}`}
      label={label}
      placeholder="2.4 m"
      value={photo[key].typed}
      onTake={(typed) => change({ [key]: { mm: 0, typed } })}
    />
  );
  const plus = (key: 'realPlusMinusMm' | 'acrossPlusMinusMm' | 'downPlusMinusMm', label: string) => (
    <Text
      key={`${photo.id} ${key}`}
      label={label}
      placeholder="0"
      value={photo[key] ? String(photo[key]) : ''}
      onTake={(typed) => change({ [key]: Number(typed.replace(',', '.')) || 0 })}
    />
  );
  return (
    <>
      <div className={classes.headRow}>
        <Text label="Photograph" value={photo.name} onTake={(name) => change({ name })} />
        <SegmentedControl
          size="xs"
          aria-label="What is known on it"
          data={[
            { value: 'corners', label: 'a rectangle' },
            { value: 'reference', label: 'one length' },
          ]}
          value={photo.mode}
          onChange={(mode) => change({ mode })}
        />
      </div>
      {photo.mode === 'corners' ? (
        <>
          <div className={classes.need}>
            {size('across', 'Across, 1 to 2, real')}
            {plus('acrossPlusMinusMm', '± mm')}
            {size('down', 'Down, 2 to 3, real')}
            {plus('downPlusMinusMm', '± mm')}
          </div>
          <div>
            <Button
              size="compact-sm"
              variant={placing?.what === 'corners' ? 'filled' : 'default'}
              onClick={() => place(placing ? undefined : { what: 'corners', next: 0 })}
            >
              {placing?.what === 'corners'
                ? `Click corner ${placing.next + 1} of 4 on the photograph`
                : 'Mark its four corners'}
            </Button>
          </div>
        </>
      ) : (
        <div className={classes.need}>
          {size('real', 'Known length A–B, real')}
          {plus('realPlusMinusMm', '± mm')}
          <Button
            size="compact-sm"
            className={classes.addButton}
            variant={placing?.what === 'reference' ? 'filled' : 'default'}
            onClick={() => place(placing ? undefined : { what: 'reference', next: 0 })}
          >
            {placing?.what === 'reference' ? `Click end ${placing.next ? 'B' : 'A'}` : 'Mark its ends'}
          </Button>
        </div>
      )}
      <Trouble error={error} />
      <h3>Measured</h3>
      {photo.lengths.map((l, i) => (
        <Reading
          key={l.id}
          index={i}
          photo={photo}
          work={work}
          tools={tools}
          reading={answer?.readings.find((r) => r.id === l.id)}
        />
      ))}
      <div>
        <Button
          size="compact-sm"
          variant={placing?.what === 'length' ? 'filled' : 'default'}
          onClick={() => place(placing ? undefined : { what: 'length', next: 0 })}
        >
          {placing?.what === 'length'
            ? `Click ${placing.next ? 'its other end' : 'one end'} on the photograph`
            : 'Measure a length'}
        </Button>
      </div>
      {answer?.notes.map((n) => (
        <p key={n} className={classes.mute}>
          {n}
          {answer.gridStep && ` The grid's squares are ${answer.gridStep}.`}
        </p>
      ))}
      <p className={classes.mute}>
        Drag a point, or stand on it with Tab and nudge it with the arrow keys: one pixel, ten with Shift, a tenth with
        Alt.
      </p>
      <div>
        <button type="button" className="word" onClick={() => tools.edit.mutate([{ op: 'dropPhoto', text: photo.id }])}>
          Take this photograph off the build
        </button>
      </div>
    </>
  );
}

interface ReadingProps {
  index: number;
  photo: Photo;
  work: PhotoWork;
  tools: BuildTools;
  reading?: PhotoAnswer['readings'][number];
}

function Reading({ index, photo, work, tools, reading }: ReadingProps) {
  const l = photo.lengths[index];
  const [sent, setSent] = useState<string>();
  const [group, setGroup] = useState('hull');
  if (!l) {
    return null;
  }
  const set = (change: Partial<typeof l>) =>
    work.change({ lengths: photo.lengths.map((x, i) => (i === index ? { ...x, ...change } : x)) });
  const letter = index + 1;
  const toSheet = () =>
    tools.edit
      .mutateAsync([
        {
          op: 'dimension',
          dimension: {
            byName: true,
            group,
            name: l.name || `Length ${letter}`,
            real: `${reading?.mm.toFixed(1)} mm`,
            realPlusMinus: reading?.plusMinusMm.toFixed(2),
            source: `photograph ${photo.name}`.slice(0, 120),
          },
        },
      ])
      .then(
        () => setSent(`It is on the size sheet, under ${group}.`),
        (e) => setSent(words(e)),
      );
  return (
    <article className={classes.reading} aria-label={l.name || `Length ${letter}`}>
      <div className={classes.headRow}>
        <strong className={classes.letter}>{letter}</strong>
        <div className={classes.grow}>
          <Text label="" placeholder="what it is" value={l.name} onTake={(name) => set({ name })} />
        </div>
        {reading && !reading.failed ? (
          <Why why={reading.why} name={l.name || `Length ${letter}`}>
            <span className="real">{reading.real}</span>
          </Why>
        ) : (
          <span className={classes.mute}>{reading?.failed ?? '…'}</span>
        )}
      </div>
      {reading?.cautions.map((c) => (
        <p key={c} className={classes.caution}>
          {c}
        </p>
      ))}
      <div className={classes.headRow}>
        <Checkbox
          size="xs"
          label="not in that plane"
          checked={l.off ?? false}
          onChange={(e) => set({ off: e.currentTarget.checked })}
        />
        <span className={classes.gap} />
        <Select
          size="xs"
          w={110}
          aria-label={`Part of the size sheet for length ${letter}`}
          data={groups}
          value={group}
          allowDeselect={false}
          onChange={(g) => g && setGroup(g)}
        />
        <Button size="compact-xs" variant="default" disabled={!reading || !!reading.failed} onClick={toSheet}>
          To the size sheet
        </Button>
        <TakeOut
          what={`length ${letter}`}
          inRow
          onTake={() => work.change({ lengths: photo.lengths.filter((_, i) => i !== index) })}
        />
      </div>
      {sent && <p role="status">{sent}</p>}
    </article>
  );
}

/** A field that is taken when one leaves it or presses Enter. */
function Text({
  label,
  value,
  placeholder,
  onTake,
}: {
  label: string;
  value: string;
  placeholder?: string;
  onTake: (text: string) => void;
}) {
  const [text, setText] = useState(value);
  const [kept, setKept] = useState(value);
  if (kept !== value) {
    setKept(value);
    setText(value);
  }
  return (
    <TextInput
      size="xs"
      label={label || undefined}
      aria-label={label || placeholder}
      placeholder={placeholder}
      value={text}
      onChange={(e) => setText(e.currentTarget.value)}
      onBlur={() => text !== value && onTake(text)}
      onKeyDown={(e) => e.key === 'Enter' && text !== value && onTake(text)}
    />
  );
}
