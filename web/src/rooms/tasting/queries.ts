import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type Flight = Schemas['FlightAnswer'];
export type FlightBody = Schemas['FlightBody'];
export type FlightMethod = Flight['method'];
export type Sheet = Schemas['SheetAnswer'];
export type ScoreSent = Schemas['ScoreBody'];
export type PourSheet = Schemas['PourAnswer'];
export type AttributeCode = Flight['attributes'][number];

const at = (id: string) => ({ params: { path: { id } } });
const by = (token: string) => ({ params: { path: { token } } });

const flightsKey = (trialId: string) => ['trial', trialId, 'flights'];
/** Flights; while one is being tasted, its events say when to look again (useFlightEvents). */
export const flightsQuery = (trialId: string) =>
  queryOptions({
    queryKey: flightsKey(trialId),
    queryFn: async () => (await take(api.GET('/api/v1/trials/{id}/flights', at(trialId)))).flights,
  });
export const flightQuery = (id: string) =>
  queryOptions({ queryKey: ['flight', id], queryFn: () => take(api.GET('/api/v1/flights/{id}', at(id))) });
export const methodQuery = (trialId: string) =>
  queryOptions({
    queryKey: ['trial', trialId, 'flight-method'],
    queryFn: () => take(api.GET('/api/v1/trials/{id}/flight-method', at(trialId))),
  });
/** What a flight as asked would take of each taster; a refusal shows when it is made. */
export const outlookQuery = (trialId: string, body: FlightBody) =>
  queryOptions({
    queryKey: ['trial', trialId, 'flight-outlook', body],
    queryFn: () => take(api.POST('/api/v1/trials/{id}/flight-outlook', { ...at(trialId), body })),
    enabled: body.run_ids.length > 1 && body.taster_ids.length > 0,
    retry: false,
    placeholderData: (before) => before,
  });

export const makeFlight = (trialId: string, body: FlightBody) =>
  take(api.POST('/api/v1/trials/{id}/flights', { ...at(trialId), body }));
const editFlight = (f: Flight, body: Schemas['FlightPatch']) =>
  take(api.PATCH('/api/v1/flights/{id}', { params: { path: { id: f.id }, header: { 'If-Match': f.rev } }, body }));
export type TemperatureBody = Schemas['TemperatureBody'];
export const readTemperature = (id: string, body: TemperatureBody) =>
  take(api.POST('/api/v1/flights/{id}/temperatures', { ...at(id), body }));
export const takeBackTemperature = (id: string) => take(api.DELETE('/api/v1/flights/{id}/temperatures', at(id)));
export const hostTastes = (f: Flight) => editFlight(f, { host_tastes: true });
export type PassName = Schemas['PassBody']['name'];
export const openPass = (id: string, name: PassName) =>
  take(api.POST('/api/v1/flights/{id}/passes', { ...at(id), body: { name } }));
export const sayShuffled = (id: string) =>
  take(api.POST('/api/v1/flights/{id}/shuffled', { params: { path: { id } } }));
export const closeFlight = (id: string) => take(api.POST('/api/v1/flights/{id}/close', at(id)));
export const flipFlight = (id: string, marks: { code: string; mark: number }[]) =>
  take(api.POST('/api/v1/flights/{id}/flip', { ...at(id), body: { marks } }));
export const breakSeal = (id: string) => take(api.POST('/api/v1/flights/{id}/break-seal', at(id)));
export const openPourSheet = (id: string) => take(api.POST('/api/v1/flights/{id}/pour-sheet', at(id)));
export const removeFlight = (id: string) => take(api.DELETE('/api/v1/flights/{id}', at(id)));
export const addTaster = (id: string, person_id: string) =>
  take(api.POST('/api/v1/flights/{id}/tasters', { ...at(id), body: { person_id } }));
export const renewLink = (sheetId: string) => take(api.POST('/api/v1/sheets/{id}/link', at(sheetId)));
export const withdrawLink = (sheetId: string) => take(api.DELETE('/api/v1/sheets/{id}/link', at(sheetId)));
export const setLeft = ({ id, left }: { id: string; left: boolean }) =>
  take(api.POST('/api/v1/sheets/{id}/left', { ...at(id), body: { left } }));

export const readSheet = (token: string) => take(api.GET('/api/v1/taste/{token}', by(token)));
export const putScores = (token: string, scores: ScoreSent[]) =>
  take(api.PUT('/api/v1/taste/{token}/scores', { ...by(token), body: { scores } }));
export const putLateScores = (token: string, scores: ScoreSent[]) =>
  take(api.PUT('/api/v1/taste/{token}/late-scores', { ...by(token), body: { scores } }));
export const openPour = (token: string) => take(api.POST('/api/v1/pour/{token}', by(token)));
