import { useQuery } from '@tanstack/react-query';
import { api, ask } from './client';
import { until } from './provisional';

/** Families of products with their times. */
export function useFamilies() {
  return useQuery({
    queryKey: ['families'],
    queryFn: () => ask(api.GET('/api/families')),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** Kinds of steps and layers, mishaps, schools and the simulated weather. */
export function useLibrary() {
  return useQuery({
    queryKey: ['library'],
    queryFn: () => ask(api.GET('/api/library')),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** The evenings that all builds share, with what to gather for the next one. */
export function useEvenings() {
  return useQuery({
    queryKey: ['evenings'],
    queryFn: () => ask(api.GET('/api/evenings')),
    refetchInterval: (q) => until(q.state.data?.provisional),
  });
}
