import { Button, FileButton } from '@mantine/core';
import { useState } from 'react';
import { type Jar, words } from '../api/client';
import { send, type Uploaded } from '../api/send';
import { TakeOut } from '../room/TakeOut';
import classes from './Shelf.module.css';

/** Photographs of chips that were sprayed from a jar: how it really looks, dry. */
export function Chips({ jar, onTake }: { jar: Jar; onTake: (chips: string[]) => void }) {
  const [gone, setGone] = useState<number>();
  const [fault, setFault] = useState<string>();
  const chips = jar.chips ?? [];
  const add = async (file: File | null) => {
    if (!file) {
      return;
    }
    setFault(undefined);
    try {
      const { hash } = await send<Uploaded>('/api/shelf/photos', file, setGone);
      onTake([...chips.filter((c) => c !== hash), hash]);
    } catch (e) {
      setFault(words(e));
    }
    setGone(undefined);
  };
  return (
    <section aria-label="Sprayed chips" className={classes.chips}>
      {chips.map((c, i) => (
        <figure key={c}>
          <a href={`/api/shelf/files/${c}`} target="_blank" rel="noreferrer">
            <img src={`/api/shelf/files/${c}`} alt={`Sprayed chip ${i + 1} of ${jar.name}`} />
          </a>
          <TakeOut what={`photograph ${i + 1}`} inRow onTake={() => onTake(chips.filter((x) => x !== c))} />
        </figure>
      ))}
      {chips.length < 6 && (
        <FileButton accept="image/jpeg,image/png" onChange={add}>
          {(props) => (
            <Button {...props} size="xs" variant="outline" loading={gone !== undefined}>
              Add a photograph of a sprayed chip
            </Button>
          )}
        </FileButton>
      )}
      {fault && (
        <p role="alert" className="trouble">
          {fault}
        </p>
      )}
    </section>
  );
}
