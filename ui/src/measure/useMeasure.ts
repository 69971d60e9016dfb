import { useMutation, useQuery } from '@tanstack/react-query';
import { api, ask, type PhotoMarks } from '../api/client';

/** The table of stock as the workshop sees it. */
export function useStock() {
  return useQuery({ queryKey: ['stock'], queryFn: () => ask(api.GET('/api/stock')) });
}

/** What the marks on a photograph measure, asked anew as they move. */
export function usePhotoAnswer(marks: PhotoMarks | undefined) {
  return useQuery({
    queryKey: ['photo', marks],
    enabled: marks !== undefined,
    retry: false,
    placeholderData: (before) => before,
    queryFn: () => ask(api.POST('/api/calc/photo', { body: marks as PhotoMarks })),
  });
}

/** A part while it is measured: asked again until its walls are known. */
export function usePart(build: string, part: string, revision: number) {
  return useQuery({
    queryKey: ['part', build, part, revision],
    queryFn: () => ask(api.GET('/api/builds/{id}/parts/{part}', { params: { path: { id: build, part } } })),
    retry: false,
    placeholderData: (before) => before,
    refetchInterval: (q) => (['done', 'failed'].includes(q.state.data?.stage ?? 'done') ? false : 400),
  });
}

/** What is asked for a thing that is needed; which of it counts depends on the thing. */
interface Needed {
  kind: string;
  size: string;
  second: string;
  length: string;
  bend: string;
  outer: string;
  count: number;
  metal: boolean;
  owned: boolean;
  scale: string;
}

/** Looks up what a size is made from: stock, a twisted rope, a hole. */
export function useNeed({ kind, size, second, length, bend, outer, count, metal, owned, scale }: Needed) {
  const stock = useMutation({
    mutationFn: () => ask(api.POST('/api/calc/stock', { body: { kind, size, second, length, bend, scale, owned } })),
  });
  const rope = useMutation({
    mutationFn: () => ask(api.POST('/api/calc/rope', { body: { diameter: size, length, bend, scale, owned } })),
  });
  const drill = useMutation({
    mutationFn: () => ask(api.POST('/api/calc/drill', { body: { hole: size, outer, count, metal, scale, owned } })),
  });
  return { stock, rope, drill };
}

/** Reads rows of sizes from a spreadsheet. */
export const useReadSizes = () =>
  useMutation({ mutationFn: (text: string) => ask(api.POST('/api/calc/sizes', { body: { text } })) });
