import { useMutation } from '@tanstack/react-query';
import { api, ask, type WhatIf } from '../api/client';

/** Lays a build's plan as it would be, and keeps nothing of it. */
export const useWhatIf = (id: string) =>
  useMutation({
    mutationFn: (body: WhatIf) => ask(api.POST('/api/builds/{id}/whatif', { params: { path: { id } }, body })),
  });
