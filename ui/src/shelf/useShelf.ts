import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ask, insist, type RecipeQuestion, type Schemas } from '../api/client';

type ShelfEdit = Schemas['ShelfEdit'];

/** Jars and mixes with what is left of them, and changing them. */
export function useShelf() {
  const client = useQueryClient();
  const state = useQuery({ queryKey: ['shelf'], queryFn: () => ask(api.GET('/api/shelf')) });
  const edit = useMutation({
    scope: { id: 'shelf' },
    // What is made carries an id from here, so that it may be sent again.
    mutationFn: (edits: ShelfEdit[]) => insist(() => api.POST('/api/shelf', { body: { edits } })),
    onSuccess: (next) => {
      client.setQueryData(['shelf'], next);
      for (const what of ['shopping', 'workshop', 'evenings', 'home', 'build', 'camouflage']) {
        client.invalidateQueries({ queryKey: [what] });
      }
    },
  });
  return { state, edit };
}

export type ShelfTools = ReturnType<typeof useShelf>;

/** What the open steps of all builds want that is not on the shelf. */
export const useShopping = () =>
  useQuery({ queryKey: ['shopping'], queryFn: () => ask(api.GET('/api/shopping')), refetchInterval: 60_000 });

/** The best mixes for a colour. */
export const useRecipe = () =>
  useMutation({ mutationFn: (body: RecipeQuestion) => ask(api.POST('/api/calc/recipe', { body })) });

/** Lighter, darker, faded and shadowed ones. */
export const useRelatives = () =>
  useMutation({ mutationFn: (body: RecipeQuestion) => ask(api.POST('/api/calc/relatives', { body })) });

/** What to add to a cup. */
export const useCup = () =>
  useMutation({ mutationFn: (body: Schemas['CupQuestion']) => ask(api.POST('/api/calc/cup', { body })) });

/** What is planned over a build's scheme. */
export const useAbove = (build: string) =>
  useQuery({
    queryKey: ['above', build],
    enabled: build !== '',
    queryFn: () => ask(api.GET('/api/builds/{id}/above', { params: { path: { id: build } } })),
  });

/** What on the shelf looks like a colour, the likest first. */
export const useLike = (hex: string) =>
  useQuery({
    queryKey: ['like', hex],
    enabled: hex !== '',
    queryFn: () => ask(api.POST('/api/calc/like', { body: { hex } })),
  });

/** The colour of something photographed beside the neutral card. */
export const useSwatch = () =>
  useMutation({ mutationFn: (body: Schemas['SwatchQuestion']) => ask(api.POST('/api/calc/swatch', { body })) });

/** The builds that a mix can be sent to. */
export const useBuilds = () => useQuery({ queryKey: ['home'], queryFn: () => ask(api.GET('/api/home')) });
