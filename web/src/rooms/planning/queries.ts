import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

/** As stored every setting has its value; only a body sent may leave some out. */
export type PlanSettings = Required<Omit<Schemas['PlanBody'], 'day'>> & { day: Required<Schemas['DayBody']> };
export type Plan = Omit<Schemas['PlanAnswer'], 'settings'> & { settings: PlanSettings };
export type Budget = Schemas['BudgetAnswer'];
export type DesignBody = Schemas['DesignBody'];
export type Sheet = Schemas['RunSheetAnswer'];
export type Scatter = Schemas['ScatterAnswer'];
export type Power = Schemas['PowerAnswer'];

const at = (id: string) => ({ params: { path: { id } } });
const atRev = (id: string, rev: number) => ({ params: { path: { id }, header: { 'If-Match': rev } } });

export const planQuery = (id: string) =>
  queryOptions({
    queryKey: ['trial', id, 'plan'],
    queryFn: () => take(api.GET('/api/v1/trials/{id}/plan', at(id))) as Promise<Plan>,
  });

export const savePlan = (id: string, rev: number, body: Schemas['PlanBody']) =>
  take(api.PUT('/api/v1/trials/{id}/plan', { ...atRev(id, rev), body }));

export const layOut = (id: string, rev: number, body: DesignBody) =>
  take(api.POST('/api/v1/trials/{id}/design', { ...atRev(id, rev), body }));

export const scatterQuery = queryOptions({
  queryKey: ['scatter'],
  queryFn: () => take(api.GET('/api/v1/scatter')),
});

type ScatterIn = Schemas['ScatterIn'];
const sds = (s: Scatter): ScatterIn => ({ taster_setup: s.taster_setup, brew: s.brew, noise: s.noise });

export const powerQuery = (
  body: { setups: number; tasters: number; replicates: number; flights: number; lead: number },
  scatter: Scatter | undefined,
) =>
  queryOptions({
    queryKey: ['power', body, scatter],
    queryFn: () => take(api.POST('/api/v1/calc/power', { body: { ...body, scatter: sds(scatter!) } })),
    enabled: scatter !== undefined && body.setups >= 2,
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  });

export const powerCurveQuery = (
  body: { setups: number; brews: number; flights: number; most_tasters: number },
  scatter: Scatter | undefined,
) =>
  queryOptions({
    queryKey: ['power-curve', body, scatter],
    queryFn: () => take(api.POST('/api/v1/calc/power-curve', { body: { ...body, scatter: sds(scatter!) } })),
    enabled: scatter !== undefined && body.setups >= 2,
    refetchInterval: ({ state }) => (state.data && !state.data.complete ? 1000 : false),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const sheetQuery = (id: string) =>
  queryOptions({
    queryKey: ['trial', id, 'run-sheet'],
    queryFn: () => take(api.GET('/api/v1/trials/{id}/run-sheet', at(id))),
  });

export const makeSheet = (id: string, begins_at: string | null) =>
  take(api.POST('/api/v1/trials/{id}/run-sheet', { ...at(id), body: { begins_at } }));
export const beginBrew = (sheetId: string, rev: number, brew: string, measured: boolean) =>
  take(api.POST('/api/v1/run-sheets/{id}/begin', { ...atRev(sheetId, rev), body: { brew, measured } }));
export const planAgain = (sheetId: string, rev: number) =>
  take(api.POST('/api/v1/run-sheets/{id}/again', atRev(sheetId, rev)));
