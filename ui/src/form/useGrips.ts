import { useQuery } from '@tanstack/react-query';
import { api, ask } from '../api/client';

/** What of a part of the body can be dragged, by view. */
export function useGrips(build: string, part: string | undefined, revision: number) {
  return useQuery({
    queryKey: ['grips', build, part, revision],
    enabled: part !== undefined,
    queryFn: () => ask(api.GET('/api/builds/{id}/grips/{part}', { params: { path: { id: build, part: part ?? '' } } })),
    placeholderData: (before, query) => (query?.queryKey[2] === part ? before : undefined),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** The kinds of fittings there are. */
export const useFittings = () =>
  useQuery({
    queryKey: ['fittings'],
    queryFn: () => ask(api.GET('/api/fittings')),
    staleTime: Number.POSITIVE_INFINITY,
  });
