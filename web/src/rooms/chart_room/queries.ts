import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type ChartRoom = Schemas['ChartRoomAnswer'];
export type ChartPointShown = Schemas['ChartPointShown'];
export type Filter = {
  school: 'in_cup' | 'full_liquor';
  coffee: string;
  grinder: string;
  brewer: string;
  recipe: string;
  purpose: '' | 'evidence' | 'dial_in' | 'loose';
  since: string;
  until: string;
};

export const chartRoomQuery = (filter: Partial<Filter> & { limit?: number }) =>
  queryOptions({
    queryKey: ['chart-room', filter],
    queryFn: () => {
      const query = Object.fromEntries(Object.entries(filter).filter(([, v]) => v !== ''));
      return take(api.GET('/api/v1/chart-room', { params: { query } }));
    },
    placeholderData: keepPreviousData,
  });
