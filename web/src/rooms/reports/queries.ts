import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type Report = Schemas['ReportAnswer'];

export const reportQuery = (id: string) =>
  queryOptions({
    queryKey: ['trial', id, 'report'],
    queryFn: () => take(api.GET('/api/v1/trials/{id}/report', { params: { path: { id } } })),
  });

export const shownQuery = (token: string) =>
  queryOptions({
    queryKey: ['shown', token],
    queryFn: () => take(api.GET('/api/v1/shown/{token}', { params: { path: { token } } })),
    retry: false,
  });
export const verdictLinksQuery = (id: string) =>
  queryOptions({
    queryKey: ['trial', id, 'verdict-links'],
    queryFn: async () => (await take(api.GET('/api/v1/trials/{id}/verdict-links', { params: { path: { id } } }))).links,
  });
export const shareVerdict = (id: string) =>
  take(api.POST('/api/v1/trials/{id}/verdict-links', { params: { path: { id } } }));
export const withdrawVerdictLink = (id: string) =>
  take(api.DELETE('/api/v1/verdict-links/{id}', { params: { path: { id } } }));
