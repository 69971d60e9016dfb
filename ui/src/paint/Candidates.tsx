import { Button, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import { type BuildState, type Pattern, words } from '../api/client';
import { useWorkshop } from '../api/useWorkshop';
import classes from '../room/room.module.css';
import own from './Scheme.module.css';
import { useSketches } from './useScheme';

interface CandidatesProps {
  data: BuildState;
  scheme: Pattern;
  onTake: (scheme: Pattern) => void;
}

/** Three others by chance, side by side: one is taken with a click. */
export function Candidates({ data, scheme, onTake }: CandidatesProps) {
  const sketches = useSketches(data.build.id);
  const [shown, setShown] = useState<Pattern[]>([]);
  const draw = () => {
    const from = shown.at(-1)?.seed ?? scheme.seed;
    const next = [1, 2, 3].map((k) => ({ ...scheme, seed: from + k }));
    sketches.mutate(next, { onSuccess: () => setShown(next) });
  };
  return (
    <section aria-label="Others by chance" className={classes.form}>
      <div className={classes.row}>
        <h3>Others by chance</h3>
        <Button size="xs" variant="outline" loading={sketches.isPending} onClick={draw}>
          {shown.length ? 'Three more' : 'Show three'}
        </Button>
      </div>
      {sketches.isError && (
        <p role="alert" className={classes.error}>
          {words(sketches.error)}
        </p>
      )}
      {shown.length > 0 && sketches.data && (
        <div className={own.sketches}>
          {sketches.data.map((s, i) => {
            const p = shown[i];
            return (
              p && (
                <button key={p.seed} type="button" onClick={() => onTake(p)} aria-label={`Take number ${i + 1}`}>
                  <img src={`data:image/png;base64,${s.image}`} alt={`Left side, number ${i + 1}`} />
                </button>
              )
            );
          })}
        </div>
      )}
    </section>
  );
}

/** The workshop's own book: real sizes, so that a scheme fits any build and scale. */
export function Book({ data, scheme, onTake }: CandidatesProps) {
  const { workshop, keep } = useWorkshop();
  const [name, setName] = useState('');
  const [fault, setFault] = useState<string>();
  const book = workshop?.book ?? [];
  // Pins and pictures belong to the vehicle that they were set on; jars stay named, they are the workshop's.
  const moved = (p: Pattern): Pattern => ({ ...p, anchors: [], traces: [] });
  const read = async (file?: File) => {
    try {
      const p = JSON.parse((await file?.text()) ?? '') as Pattern;
      if (!Array.isArray(p.colours)) {
        throw new Error('it has no colours');
      }
      setFault(undefined);
      onTake(moved(p));
    } catch (e) {
      setFault(`That file is no scheme (${e instanceof Error ? e.message : e}): choose one that was saved here.`);
    }
  };
  return (
    <section aria-label="Book of schemes" className={classes.form}>
      <h3>Book of schemes</h3>
      <div className={classes.row}>
        <TextInput
          aria-label="Name in the book"
          placeholder="such as three bands, summer"
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
        />
        <Button
          size="xs"
          variant="outline"
          disabled={name.trim() === ''}
          loading={keep.isPending}
          onClick={() =>
            keep.mutate(
              (w) => ({
                ...w,
                book: [...(w.book ?? []), { id: crypto.randomUUID(), name: name.trim(), scheme: moved(scheme) }],
              }),
              { onSuccess: () => setName('') },
            )
          }
        >
          Keep this one
        </Button>
      </div>
      {book.length > 0 && (
        <Select
          aria-label="Take one from the book"
          placeholder="take one from the book"
          data={book.map((b) => ({ value: b.id, label: b.name }))}
          value={null}
          onChange={(id) => {
            const b = book.find((b) => b.id === id);
            if (b) {
              onTake(moved(b.scheme));
            }
          }}
        />
      )}
      <div className={classes.row}>
        <a
          className="word"
          download={`${data.build.name}, scheme.json`}
          href={`data:application/json,${encodeURIComponent(JSON.stringify(scheme, null, 1))}`}
        >
          Save as a file
        </a>
        <label className="word">
          Read a file
          <input
            type="file"
            accept="application/json,.json"
            hidden
            onChange={(e) => {
              read(e.currentTarget.files?.[0]);
              e.currentTarget.value = '';
            }}
          />
        </label>
      </div>
      {(fault || keep.isError) && (
        <p role="alert" className={classes.error}>
          {fault ?? words(keep.error)}
        </p>
      )}
    </section>
  );
}
