import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';
import { type ChartPointShown, pointsOf } from './columns';

type Answer = Schemas['ChartsAnswer'];
export type Charts = Omit<Answer, 'points'> & { points: ChartPointShown[] };
export type Filter = {
  yield_basis: 'in_cup' | 'full_liquor';
  coffee: string;
  grinder: string;
  brewer: string;
  recipe: string;
  purpose: '' | 'evidence' | 'dial_in' | 'loose';
  since: string;
  until: string;
};

export const chartsQuery = (filter: Partial<Filter> & { limit?: number }) =>
  queryOptions({
    queryKey: ['charts', filter],
    queryFn: async (): Promise<Charts> => {
      const query = Object.fromEntries(Object.entries(filter).filter(([, v]) => v !== ''));
      const answer = await take(api.GET('/api/v1/charts', { params: { query } }));
      return { ...answer, points: pointsOf(answer.points) };
    },
    placeholderData: keepPreviousData,
  });
