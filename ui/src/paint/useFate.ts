import { useQuery } from '@tanstack/react-query';
import { api, ask, type Schemas, type View } from '../api/client';

export type Fate = Schemas['Fate'];
export type CoreSample = Schemas['CoreSample'];

/** A place of a view, model mm. */
export interface Spot {
  side: View['side'];
  at: [number, number];
}

/** What of each layer will be seen at the end. */
export const useSurvival = (build: string, revision: number) =>
  useQuery({
    queryKey: ['survival', build, revision],
    queryFn: () => ask(api.GET('/api/builds/{id}/survival', { params: { path: { id: build } } })),
    placeholderData: (before) => before,
  });

/** What lies where a view was picked, or at a typical place of a zone, as it stands in a look. */
export const useCore = (build: string, look: string, spot?: Spot, zone?: string) =>
  useQuery({
    queryKey: ['core', build, look, spot, zone],
    queryFn: () =>
      ask(
        api.POST('/api/builds/{id}/core', {
          params: { path: { id: build } },
          body: spot ? { look, side: spot.side, at: spot.at } : { look, zone },
        }),
      ),
    enabled: spot !== undefined || zone !== undefined,
    retry: false,
    placeholderData: (before) => before,
  });
