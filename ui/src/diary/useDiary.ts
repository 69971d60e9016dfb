import { useQuery } from '@tanstack/react-query';
import { api, ask } from '../api/client';

/** The record of a build. */
export const useDiary = (id: string) =>
  useQuery({
    queryKey: ['diary', id],
    queryFn: () => ask(api.GET('/api/builds/{id}/diary', { params: { path: { id } } })),
  });
