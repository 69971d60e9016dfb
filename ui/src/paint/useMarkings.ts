import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schemas } from '../api/client';
import type { BuildTools } from '../api/useBuild';

export type Room = Schemas['MarkingsRoom'];
export type MarkingLine = Room['lines'][number];
export type Drawing = Schemas['MarkingDrawing'];
export type Decal = NonNullable<Schemas['Kit']['decals']>[number];

/** What the markings of a build come to: size on the model, outline, what lies over them. */
export const useMarkings = (build: string, revision: number) =>
  useQuery({
    queryKey: ['markings', build, revision],
    queryFn: () => ask(api.GET('/api/builds/{id}/markings', { params: { path: { id: build } } })),
    placeholderData: (before) => before,
  });

/** A marking that the next click on a view places; or the part that is clicked came from another vehicle. */
export type Putting = { id: string; name: string; both: boolean } | 'a part from another vehicle';

/** What the next click on a view places. */
export function usePutting({ edit }: BuildTools) {
  const [putting, setPutting] = useState<Putting>();
  const take = async (on: string, at: [number, number, number]) => {
    if (typeof putting === 'string') {
      await edit.mutateAsync([{ op: 'otherPart', place: { what: putting, on, at } }]);
      setPutting(undefined);
    } else if (putting) {
      const { id, both } = putting;
      await edit.mutateAsync([{ op: 'putMarking', text: id, place: { what: both ? 'both' : 'one', on, at } }]);
      setPutting(undefined);
    }
  };
  return { putting, setPutting, take };
}

export type PutWork = ReturnType<typeof usePutting>;
