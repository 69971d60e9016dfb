import { useQuery } from '@tanstack/react-query';
import { api, ask, type Schemas } from '../api/client';

export type GroundRoom = Schemas['GroundRoom'];
export type Base = Schemas['Base'];

/** The base of a build: what is wanted of it, and how it comes to be. */
export const useGround = (build: string, revision: number) =>
  useQuery({
    queryKey: ['ground', build, revision],
    queryFn: () => ask(api.GET('/api/builds/{id}/ground', { params: { path: { id: build } } })),
    placeholderData: (before) => before,
  });
