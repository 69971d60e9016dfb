import { useMutation } from '@tanstack/react-query';
import { api, ask } from '../api/client';

/** Asks what a line typed on the rule means at a scale. */
export const useRule = (scale: string) =>
  useMutation({ mutationFn: (text: string) => ask(api.POST('/api/calc/length', { body: { text, scale } })) });
