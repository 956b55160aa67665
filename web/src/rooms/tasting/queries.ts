import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type Flight = Schemas['FlightAnswer'];
export type FlightBody = Schemas['FlightBody'];
export type Sheet = Schemas['SheetAnswer'];
export type ScoreSent = Schemas['ScoreBody'];
export type AttributeCode = Flight['attributes'][number];

const WATCH_MS = 2_500;
const at = (id: string) => ({ params: { path: { id } } });

/** Flights are watched while one is being tasted. */
export const flightsQuery = (trialId: string) =>
  queryOptions({
    queryKey: ['trial', trialId, 'flights'],
    queryFn: async () => (await take(api.GET('/api/v1/trials/{id}/flights', at(trialId)))).flights,
    refetchInterval: (query) => (query.state.data?.some((f) => f.status === 'open') ? WATCH_MS : false),
  });

export const makeFlight = (trialId: string, body: FlightBody) =>
  take(api.POST('/api/v1/trials/{id}/flights', { ...at(trialId), body }));
export const setCupTemperature = (f: Flight, cup_temperature_c: number | null) =>
  take(
    api.PATCH('/api/v1/flights/{id}', {
      params: { path: { id: f.id }, header: { 'If-Match': f.rev } },
      body: { cup_temperature_c },
    }),
  );
export const closeFlight = (id: string) => take(api.POST('/api/v1/flights/{id}/close', at(id)));
export const flipFlight = (id: string, marks: { code: string; mark: number }[]) =>
  take(api.POST('/api/v1/flights/{id}/flip', { ...at(id), body: { marks } }));
export const removeFlight = (id: string) => take(api.DELETE('/api/v1/flights/{id}', at(id)));
export const addTaster = (id: string, person_id: string) =>
  take(api.POST('/api/v1/flights/{id}/tasters', { ...at(id), body: { person_id } }));
export const renewLink = (sheetId: string) => take(api.POST('/api/v1/sheets/{id}/link', at(sheetId)));
export const withdrawLink = (sheetId: string) => take(api.DELETE('/api/v1/sheets/{id}/link', at(sheetId)));

export const readSheet = (token: string) => take(api.GET('/api/v1/taste/{token}', { params: { path: { token } } }));
export const putScores = (token: string, scores: ScoreSent[]) =>
  take(api.PUT('/api/v1/taste/{token}/scores', { params: { path: { token } }, body: { scores } }));
