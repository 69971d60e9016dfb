import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ask, insist, type Workshop } from './client';

/** What all builds share, and keeping a change of it under the revision that was seen. */
export function useWorkshop() {
  const client = useQueryClient();
  const state = useQuery({ queryKey: ['workshop'], queryFn: () => ask(api.GET('/api/workshop')) });
  const keep = useMutation({
    scope: { id: 'workshop' },
    mutationFn: (change: (now: Workshop) => Workshop) => {
      const now = client.getQueryData<NonNullable<typeof state.data>>(['workshop']);
      if (!now) {
        throw new Error('the workshop is not there yet');
      }
      const params = { header: { 'If-Match': `"${now.revision}"` } };
      const body = change(now.workshop);
      return insist(() => api.PUT('/api/workshop', { params, body }));
    },
    onSuccess: (next) => {
      client.setQueryData(['workshop'], next);
      for (const what of ['stock', 'evenings', 'home', 'camouflage']) {
        client.invalidateQueries({ queryKey: [what] });
      }
      return client.invalidateQueries({ queryKey: ['build'] });
    },
    // The newer workshop is fetched; what was typed stays, and a second try goes over it.
    onError: () => client.invalidateQueries({ queryKey: ['workshop'] }),
  });
  return { workshop: state.data?.workshop, keep };
}
