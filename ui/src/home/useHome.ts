import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, insist, type Restored, type Start, under } from '../api/client';
import { until } from '../api/provisional';
import { send } from '../api/send';

/** All builds, and what can be done with a whole build. */
export function useHome() {
  const client = useQueryClient();
  const again = () => client.invalidateQueries({ queryKey: ['home'] });
  const home = useQuery({
    queryKey: ['home'],
    queryFn: () => ask(api.GET('/api/home')),
    refetchInterval: (q) => until(q.state.data?.provisional),
  });
  const start = useMutation({ mutationFn: (body: Start) => ask(api.POST('/api/builds', { body })), onSuccess: again });
  const duplicate = useMutation({
    mutationFn: (id: string) => ask(api.POST('/api/builds/{id}/duplicate', { params: { path: { id } } })),
    onSuccess: again,
  });
  const remove = useMutation({
    mutationFn: (id: string) => ask(api.DELETE('/api/builds/{id}', { params: { path: { id } } })),
    onSuccess: again,
  });
  const restore = useMutation({
    mutationFn: (id: string) => ask(api.POST('/api/builds/{id}/restore', { params: { path: { id } } })),
    onSuccess: again,
  });
  const rename = useMutation({
    mutationFn: ({ id, revision, name }: { id: string; revision: number; name: string }) => {
      const params = { path: { id }, header: under(revision) };
      return insist(() =>
        api.POST('/api/builds/{id}/edits', { params, body: { edits: [{ op: 'rename', text: name }] } }),
      );
    },
    onSuccess: again,
  });
  const rank = useMutation({
    mutationFn: ({ id, revision, first }: { id: string; revision: number; first: boolean }) => {
      const params = { path: { id }, header: under(revision) };
      return insist(() => api.POST('/api/builds/{id}/rank', { params, body: { first } }));
    },
    onSuccess: () => Promise.all([again(), client.invalidateQueries({ queryKey: ['evenings'] })]),
  });
  const [gone, setGone] = useState<number>(); // share of an archive that is sent
  const take = useMutation({
    mutationFn: async (file: File) => {
      if (/\.zip$/i.test(file.name)) {
        return send<Restored>('/api/archive', file, setGone);
      }
      const builds = await ask(api.POST('/api/import', { body: JSON.parse(await file.text()) }));
      return { builds, files: 0, workshop: false } as Restored;
    },
    onSuccess: () => Promise.all([again(), client.invalidateQueries({ queryKey: ['workshop'] })]),
    onSettled: () => setGone(undefined),
  });
  return { home, start, duplicate, remove, restore, rename, rank, take, gone };
}
