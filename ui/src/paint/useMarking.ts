import { useState } from 'react';
import type { BuildTools } from '../api/useBuild';

export interface Marking {
  layer: string;
  what: 'more' | 'none' | 'only';
  radiusMm: number;
}

type Place = { on: string; at: [number, number, number] };

/** What the next click on a view says of where a layer lands. */
export function useMarking({ edit }: BuildTools) {
  const [marking, setMarking] = useState<Marking>();
  const take = async ({ on, at }: Place) => {
    if (marking) {
      const { what, radiusMm, layer } = marking;
      await edit.mutateAsync([
        { op: 'touch', text: layer, touch: { what, radiusMm }, place: { what: 'mark', on, at } },
      ]);
    }
  };
  return { marking, setMarking, take };
}

export type MarkWork = ReturnType<typeof useMarking>;
