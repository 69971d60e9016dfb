import { useQuery } from '@tanstack/react-query';
import { api, ask, type Plan } from '../api/client';

/** The faces of the vehicle, as the core makes them. */
export const useSolid = ({ build, drawing }: Plan) =>
  useQuery({
    queryKey: ['solid', build, drawing],
    queryFn: () => ask(api.GET('/api/builds/{id}/solids/{drawing}', { params: { path: { id: build, drawing } } })),
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
  });
