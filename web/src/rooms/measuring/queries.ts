import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type Results = Schemas['ResultsAnswer'];
export type RunMeasured = Schemas['RunMeasured'];
export type SetupMeasured = Schemas['SetupMeasured'];
export type Quantity = Schemas['Quantity'];
export type Matching = Schemas['MatchingAnswer'];
export type ServerShown = Schemas['ServerShown'];
export type Advised = Schemas['AdvisedAnswer'];
export type ReadingBody = Schemas['ReadingBody'];
export type Instruments = Schemas['InstrumentsAnswer'];

const at = (id: string) => ({ params: { path: { id } } });
const atRev = (id: string, rev: number) => ({ params: { path: { id }, header: { 'If-Match': rev } } });

export const resultsQuery = (id: string) =>
  queryOptions({
    queryKey: ['trial', id, 'results'],
    queryFn: () => take(api.GET('/api/v1/trials/{id}/results', at(id))),
  });

export const comparisonsQuery = (id: string) =>
  queryOptions({
    queryKey: ['trial', id, 'comparisons'],
    queryFn: () => take(api.GET('/api/v1/trials/{id}/comparisons', at(id))),
  });

export const matchingQuery = (id: string, target: number | null) =>
  queryOptions({
    queryKey: ['trial', id, 'matching', target],
    queryFn: () =>
      take(
        api.GET('/api/v1/trials/{id}/matching', {
          params: { path: { id }, query: target === null ? {} : { target_tds_pct: target } },
        }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  });

export const adviceQuery = (runId: string, words: string[]) =>
  queryOptions({
    queryKey: ['run', runId, 'advice', words.join(',')],
    queryFn: () =>
      take(api.GET('/api/v1/runs/{id}/advice', { params: { path: { id: runId }, query: { words: words.join(',') } } })),
    placeholderData: keepPreviousData,
  });

export const aimQuery = (runId: string, wish: { tds: number; ey: number }) =>
  queryOptions({
    queryKey: ['run', runId, 'aim', wish.tds, wish.ey],
    queryFn: () =>
      take(
        api.GET('/api/v1/runs/{id}/aim', {
          params: { path: { id: runId }, query: { tds_pct: wish.tds, ey_pct: wish.ey } },
        }),
      ),
    placeholderData: keepPreviousData,
  });

export type LooseRun = Schemas['LooseRunShown'];

export const looseRunsQuery = queryOptions({
  queryKey: ['loose-runs'],
  queryFn: () => take(api.GET('/api/v1/loose-runs')),
});

export const curveQuery = (runId: string) =>
  queryOptions({
    queryKey: ['run', runId, 'curve'],
    queryFn: () => take(api.GET('/api/v1/runs/{id}/curve', at(runId))),
  });

export const instrumentsQuery = queryOptions({
  queryKey: ['instruments'],
  queryFn: () => take(api.GET('/api/v1/instruments')),
});

export const repeatabilityQuery = queryOptions({
  queryKey: ['instruments', 'repeatability'],
  queryFn: () => take(api.GET('/api/v1/instruments/repeatability')),
});

export const logReading = (runId: string, body: ReadingBody) =>
  take(api.POST('/api/v1/runs/{id}/readings', { ...at(runId), body }));
export const serveRun = (server: ServerShown, body: Schemas['ServedBody']) =>
  take(api.PUT('/api/v1/runs/{id}/served', { ...atRev(server.run_id, server.rev), body }));
export const logCheck = (body: Schemas['InstrumentCheckBody']) => take(api.POST('/api/v1/instrument-checks', { body }));
export const removeCheck = (id: string) => take(api.DELETE('/api/v1/instrument-checks/{id}', at(id)));
