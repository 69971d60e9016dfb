import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type BuildState, type Edit, insist, type NewEntry, Refusal, type Step, under } from './client';
import { until } from './provisional';

const key = (id: string) => ['build', id];

/** A key for a log entry, made here so that a repeated send is stored once. */
const entryKey = () => crypto.randomUUID();

/** One build: its state, edits under the revision that was seen, and its log. */
export function useBuild(id: string) {
  const client = useQueryClient();
  const [stale, setStale] = useState<string>();
  const params = { path: { id } };
  const state = useQuery({
    queryKey: key(id),
    queryFn: () => ask(api.GET('/api/builds/{id}', { params })),
    refetchInterval: (q) => until(q.state.data?.plan.provisional), // drying goes on
  });
  const keep = (next: BuildState) => {
    setStale(undefined);
    client.setQueryData(key(id), next);
    client.invalidateQueries({ queryKey: ['home'] });
    client.invalidateQueries({ queryKey: ['evenings'] });
  };
  const refused = (error: unknown) => {
    if (error instanceof Refusal && error.problem.current) {
      // The newer state is shown; what was typed stays in its field.
      client.setQueryData(key(id), error.problem.current);
      setStale(`${error.problem.title}. ${error.problem.detail} What you typed is kept: look, then save again.`);
    }
  };
  // Read when the edit is sent, not when it was typed: edits wait for each other.
  const seen = () => {
    const now = client.getQueryData<BuildState>(key(id));
    return { ...params, header: under(now?.revision ?? 0) };
  };
  const scope = { id: `edit ${id}` };
  const edit = useMutation({
    scope,
    mutationFn: (edits: Edit[]) => {
      const params = seen();
      return insist(() => api.POST('/api/builds/{id}/edits', { params, body: { edits } }));
    },
    onSuccess: keep,
    onError: refused,
  });
  const undo = useMutation({
    scope,
    mutationFn: () => {
      const params = seen();
      return insist(() => api.POST('/api/builds/{id}/undo', { params }));
    },
    onSuccess: keep,
    onError: refused,
  });
  const log = useMutation({
    mutationFn: ({ kind, step, more }: { kind: NewEntry['kind']; step: Step; more?: Partial<NewEntry> }) => {
      const body = {
        key: entryKey(),
        kind,
        task: step.id,
        title: step.title,
        zones: step.zones,
        product: step.product?.slice(0, 200),
        stepKind: step.kind,
        plannedMin: step.minutes,
        ...more,
      };
      return insist(() => api.POST('/api/builds/{id}/log', { params, body }));
    },
    onSuccess: (next) => {
      keep(next);
      for (const what of ['evenings', 'shelf', 'shopping']) {
        client.invalidateQueries({ queryKey: [what] });
      }
    },
  });
  return { state, edit, undo, log, stale };
}

export type BuildTools = ReturnType<typeof useBuild>;
