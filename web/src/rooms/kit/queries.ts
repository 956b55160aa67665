import { queryOptions } from '@tanstack/react-query';
import { api, take } from '../../api/client';

export const kitQuery = queryOptions({
  queryKey: ['kit'],
  queryFn: () => take(api.GET('/api/v1/kit')),
});
