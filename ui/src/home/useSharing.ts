import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ask, Refusal } from '../api/client';

/** How other devices on the network are let in, and whether this one is. */
export function useSharing() {
  const queries = useQueryClient();
  const sharing = useQuery({
    queryKey: ['sharing'],
    queryFn: () => ask(api.GET('/api/sharing')),
    retry: false,
    staleTime: 0,
  });
  const pair = useMutation({
    mutationFn: (code: string) => ask(api.POST('/api/pair', { body: { code } })),
    onSuccess: () => queries.resetQueries(),
  });
  const unpair = useMutation({
    mutationFn: () => ask(api.DELETE('/api/sharing')),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['sharing'] }),
  });
  const shut = sharing.error instanceof Refusal && sharing.error.problem.status === 401;
  return { sharing, pair, unpair, shut };
}
