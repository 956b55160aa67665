import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type LiveBrew = Schemas['LiveBrewAnswer'];
export type LiveStep = Schemas['LiveStep'];
export type Now = Schemas['NowShown'];
export type WeighLine = Schemas['WeighLine'];
export type MarkBody = Schemas['MarkBody'];
export type FinishBody = Schemas['FinishBody'];

const at = (id: string) => ({ params: { path: { id } } });
const atRev = (id: string, rev: number) => ({ params: { path: { id }, header: { 'If-Match': rev } } });

/** Where a brew stands, with the moment of this device's own clock at which it stood there. */
export const liveQuery = (id: string) =>
  queryOptions({
    queryKey: ['live-brew', id],
    queryFn: async () => {
      const brew = await take(api.GET('/api/v1/live-brews/{id}', at(id)));
      return { brew, seen: performance.now() };
    },
    refetchOnWindowFocus: true,
  });

/** Of one trial, or of the whole bench. */
export const liveBrewsQuery = (trialId: string | null) =>
  queryOptions({
    queryKey: ['trial', trialId, 'live-brews'],
    queryFn: () =>
      take(trialId === null ? api.GET('/api/v1/live-brews') : api.GET('/api/v1/trials/{id}/live-brews', at(trialId))),
  });

export type Instruments = Pick<Schemas['LiveBrewBody'], 'instrument' | 'speed' | 'mistake' | 'begins_after_s'>;
export const prepare = (trialId: string, setup_id: string, instruments: Instruments) =>
  take(api.POST('/api/v1/trials/{id}/live-brews', { ...at(trialId), body: { setup_id, ...instruments } }));
export const prepareLoose = (body: Schemas['LooseLiveBrewBody']) => take(api.POST('/api/v1/live-brews', { body }));
export const startBrew = (brew: LiveBrew) => take(api.POST('/api/v1/live-brews/{id}/start', atRev(brew.id, brew.rev)));
export const mark = (brew: LiveBrew, body: MarkBody) =>
  take(api.POST('/api/v1/live-brews/{id}/marks', { ...atRev(brew.id, brew.rev), body }));
export const takeBack = (brew: LiveBrew) =>
  take(api.DELETE('/api/v1/live-brews/{id}/marks/last', atRev(brew.id, brew.rev)));
export const weigh = (id: string, lines: WeighLine[]) =>
  take(api.POST('/api/v1/live-brews/{id}/weigh', { ...at(id), body: { lines } }));
export const finish = (brew: LiveBrew, body: FinishBody) =>
  take(api.POST('/api/v1/live-brews/{id}/finish', { ...atRev(brew.id, brew.rev), body }));
export const giveUp = (id: string) => take(api.DELETE('/api/v1/live-brews/{id}', at(id)));

export const readingsOf = (id: string) => `/api/v1/live-brews/${id}/readings`;
export const SCALE_LINES = '/api/v1/scale/lines';
