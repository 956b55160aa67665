import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type PalateRoom = Schemas['PalateRoom'];
export type Session = Schemas['SeriesShown'];
export type SessionBody = Required<Schemas['SeriesBody']>;
export type Taster = Schemas['TasterThreshold'];
export type PalateSheet = Schemas['PalateSheet'];
export type HelperSheet = Schemas['HelperSheet'];

const at = (id: string) => ({ params: { path: { id } } });
const by = (token: string) => ({ params: { path: { token } } });

/** The room is looked at again now and then: tasters answer on their phones meanwhile. */
export const palateQuery = queryOptions({
  queryKey: ['palate'],
  queryFn: () => take(api.GET('/api/v1/palate')),
  refetchInterval: 6000,
});
export const makeSession = (body: SessionBody) => take(api.POST('/api/v1/palate-sessions', { body }));
export const closeSession = (id: string) => take(api.POST('/api/v1/palate-sessions/{id}/close', at(id)));
export const removeSession = (id: string) => take(api.DELETE('/api/v1/palate-sessions/{id}', at(id)));

export type Drill = Schemas['DrillShown'];
export const drillsQuery = (person_id: string) =>
  queryOptions({
    queryKey: ['drills', person_id],
    queryFn: () => take(api.GET('/api/v1/drills', { params: { query: { person_id } } })),
  });
export const drillQuery = (id: string) =>
  queryOptions({ queryKey: ['drill', id], queryFn: () => take(api.GET('/api/v1/drills/{id}', at(id))) });
export const makeDrill = (body: Schemas['DrillBody']) => take(api.POST('/api/v1/drills', { body }));
export const removeDrill = (id: string) => take(api.DELETE('/api/v1/drills/{id}', at(id)));
export const beginRound = (id: string) => take(api.POST('/api/v1/drills/{id}/round', at(id)));
export const answerRound = ({ id, body }: { id: string; body: Schemas['DrillAnswerBody'] }) =>
  take(api.PUT('/api/v1/drills/{id}/answer', { ...at(id), body }));
export const turnCups = ({ id, body }: { id: string; body: Schemas['DrillMarksBody'] }) =>
  take(api.PUT('/api/v1/drills/{id}/turned', { ...at(id), body }));

export const readSheet = (token: string) => take(api.GET('/api/v1/palate-sheet/{token}', by(token)));
export const serveNext = (token: string) => take(api.POST('/api/v1/palate-sheet/{token}/next', by(token)));
export const answer = (token: string, body: Schemas['PickBody']) =>
  take(api.PUT('/api/v1/palate-sheet/{token}/answer', { ...by(token), body }));
export const turnOver = (token: string, body: Schemas['TurnedBody']) =>
  take(api.PUT('/api/v1/palate-sheet/{token}/turned', { ...by(token), body }));
export const openPours = (token: string) => take(api.POST('/api/v1/palate-pours/{token}', by(token)));
export const readPours = (token: string) => take(api.GET('/api/v1/palate-pours/{token}', by(token)));
