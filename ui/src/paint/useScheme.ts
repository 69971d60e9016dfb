import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Pattern, type Schemas } from '../api/client';
import type { BuildTools } from '../api/useBuild';

export type Camouflage = Schemas['Camouflage'];
export type Hold = Camouflage['holds'][number];
export type Way = Camouflage['families'][number];
type Place = Schemas['Place'];

/** How the scheme lies: fields, edges, pins. */
export const useCamouflage = (build: string, revision: number) =>
  useQuery({
    queryKey: ['camouflage', build, revision],
    queryFn: () => ask(api.GET('/api/builds/{id}/camouflage', { params: { path: { id: build } } })),
    placeholderData: (before) => before,
  });

/** How schemes that are not taken yet would look from the left. */
export const useSketches = (build: string) =>
  useMutation({
    mutationFn: (schemes: Pattern[]) =>
      ask(
        api.POST('/api/builds/{id}/sketches', {
          params: { path: { id: build } },
          body: { schemes, side: 'left', wide: 360 },
        }),
      ),
  });

/** What the next click on a view is for. */
export type Pinning = { act: 'pin'; colour: number } | { act: 'move'; from?: Place };

/** What the plate shows beside the scheme: the vehicle as it stands, once the scheme is on, at the end. */
export type Shows = 'now' | 'on' | 'end';

/** Pins of the scheme: setting, dragging and taking them out, and moving a field. */
export function usePins({ edit }: BuildTools) {
  const [pinning, setPinning] = useState<Pinning>();
  /** What the click at a place does. */
  const take = async (place: Place) => {
    if (pinning?.act === 'pin') {
      await edit.mutateAsync([{ op: 'pin', pin: { colour: pinning.colour, place } }]);
    } else if (pinning && !pinning.from) {
      setPinning({ act: 'move', from: place });
    } else if (pinning) {
      setPinning({ act: 'move' });
      await edit.mutateAsync([{ op: 'moveField', pin: { colour: 0, place: pinning.from, to: place } }]);
    }
  };
  const [shows, setShows] = useState<Shows>();
  return { pinning, setPinning, take, shows, setShows };
}

export type PinWork = ReturnType<typeof usePins>;
