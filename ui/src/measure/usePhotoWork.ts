import { useEffect, useRef, useState } from 'react';
import type { BuildState, Photo } from '../api/client';
import type { BuildTools } from '../api/useBuild';
import { usePhotoAnswer } from './useMeasure';

/** What the next clicks on the photograph set. */
export interface Placing {
  what: 'corners' | 'reference' | 'length';
  next: number;
}

/**
 * The photograph one works on. Points move here at once; the build is told when they
 * have come to rest, of everything else at once.
 */
export function usePhotoWork(tools: BuildTools, data: BuildState | undefined) {
  const [chosen, setChosen] = useState<string>();
  const [draft, setDraft] = useState<Photo>();
  const [placing, place] = useState<Placing>();
  const [shown, setShown] = useState(0);
  const [refused, setRefused] = useState<unknown>();
  const rest = useRef<ReturnType<typeof setTimeout>>(undefined);
  const photos = data?.build.photos ?? [];
  const kept = photos.find((p) => p.id === chosen) ?? photos[0];
  const photo = draft && draft.id === kept?.id ? draft : kept;
  const unsaved = useRef<Photo>(undefined);
  const flush = useRef(() => {});
  // Who goes elsewhere in the middle of a drag keeps where the point had come to.
  useEffect(() => () => flush.current(), []);

  const { id: _id, name: _name, hash: _hash, width: _w, height: _h, ...marks } = photo ?? ({} as Photo);
  const asked = usePhotoAnswer(photo ? marks : undefined);

  const save = (next: Photo) => {
    unsaved.current = undefined;
    tools.edit.mutateAsync([{ op: 'photo', photo: next }]).then(
      () => {
        setRefused(undefined);
        setDraft((now) => (now === next ? undefined : now));
      },
      (e) => setRefused(e),
    );
  };
  flush.current = () => {
    clearTimeout(rest.current);
    if (unsaved.current) {
      save(unsaved.current);
    }
  };

  const change = (part: Partial<Photo>, moving = false) => {
    if (!photo) {
      return;
    }
    const next = { ...photo, ...part };
    setDraft(next);
    clearTimeout(rest.current);
    if (!moving) {
      save(next);
      return;
    }
    unsaved.current = next;
    rest.current = setTimeout(() => flush.current(), 300);
  };

  /** Sets a point by its name: c0 … c3, a, b, or l0a, l0b and so on. */
  const move = (point: string, to: [number, number], moving = true) => {
    if (!photo) {
      return;
    }
    if (point === 'a' || point === 'b') {
      change({ [point]: to }, moving);
    } else if (point.startsWith('c')) {
      change({ corners: photo.corners.map((c, i) => (i === Number(point.slice(1)) ? to : c)) }, moving);
    } else {
      const end = point.endsWith('a') ? 'a' : 'b';
      const at = Number.parseInt(point.slice(1), 10);
      change({ lengths: photo.lengths.map((l, i) => (i === at ? { ...l, [end]: to } : l)) }, moving);
    }
  };

  /** A click on the photograph while something is being placed. */
  const click = (to: [number, number]) => {
    if (!photo || !placing) {
      return;
    }
    const { what, next } = placing;
    if (what === 'corners') {
      move(`c${next}`, to, false);
      place(next === 3 ? undefined : { what, next: next + 1 });
    } else if (what === 'reference') {
      move(next ? 'b' : 'a', to, false);
      place(next ? undefined : { what, next: 1 });
    } else if (next === 0) {
      const id = crypto.randomUUID();
      change({ lengths: [...photo.lengths, { id, name: '', a: to, b: to }] });
      place({ what, next: 1 });
    } else {
      move(`l${photo.lengths.length - 1}b`, to, false);
      place(undefined);
    }
  };

  return {
    photo,
    shown,
    answer: asked.data,
    error: refused ?? asked.error,
    choose: (id: string) => {
      setDraft(undefined);
      place(undefined);
      setShown((n) => n + 1); // asks for the picture anew: it may have just come
      setChosen(id);
    },
    change,
    move,
    click,
    placing,
    place,
  };
}

export type PhotoWork = ReturnType<typeof usePhotoWork>;
