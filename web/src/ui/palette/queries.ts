import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type Found = Schemas['Found'];

export const findQuery = (text: string) =>
  queryOptions({
    queryKey: ['find', text],
    queryFn: async () => (await take(api.GET('/api/v1/search', { params: { query: { text } } }))).found,
    placeholderData: keepPreviousData,
  });
