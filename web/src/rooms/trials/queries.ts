import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type Trial = Schemas['TrialAnswer'];
export type TrialBody = Schemas['TrialBody'];
export type Setup = Schemas['SetupAnswer'];
export type SetUp = Schemas['SetUpAnswer'];
export type Bar = Schemas['BarAnswer'];
export type Variables = Schemas['Variables'];
export type VariablesPatch = Schemas['VariablesPatch'];
export type Factor = Trial['factor'];
export type JudgedPass = Trial['judged_pass'];
export type ScatterFrom = Trial['scatter_from'];

const at = (id: string) => ({ params: { path: { id } } });
const atRev = (id: string, rev: number) => ({ params: { path: { id }, header: { 'If-Match': rev } } });

export const trialQuery = (id: string) =>
  queryOptions({ queryKey: ['trial', id], queryFn: () => take(api.GET('/api/v1/trials/{id}', at(id))) });

export const setUpQuery = (id: string) =>
  queryOptions({
    queryKey: ['trial', id, 'setups'],
    queryFn: () => take(api.GET('/api/v1/trials/{id}/setups', at(id))),
  });

export const ask = (body: TrialBody) => take(api.POST('/api/v1/trials', { body }));
export const editTrial = (id: string, rev: number, body: TrialBody) =>
  take(api.PATCH('/api/v1/trials/{id}', { ...atRev(id, rev), body }));
export const judgeBy = (id: string, rev: number, body: { judged_pass: JudgedPass } | { scatter_from: ScatterFrom }) =>
  take(api.PATCH('/api/v1/trials/{id}', { ...atRev(id, rev), body }));
export const noteTrial = (id: string, rev: number, body: { note?: string; tags?: string[]; archived?: boolean }) =>
  take(api.PATCH('/api/v1/trials/{id}', { ...atRev(id, rev), body }));
export const removeTrial = (id: string) => take(api.DELETE('/api/v1/trials/{id}', at(id)));

export const addSetup = (trialId: string, body: Schemas['SetupBody']) =>
  take(api.POST('/api/v1/trials/{id}/setups', { ...at(trialId), body }));
export const editSetup = (id: string, rev: number, body: Schemas['SetupPatch']) =>
  take(api.PATCH('/api/v1/setups/{id}', { ...atRev(id, rev), body }));
export const removeSetup = (id: string) => take(api.DELETE('/api/v1/setups/{id}', at(id)));

export const addFirstSetups = (trialId: string, body: Schemas['FirstSetupsBody']) =>
  take(api.POST('/api/v1/trials/{id}/setups/first', { ...at(trialId), body }));
export const heldBeforeQuery = (trialId: string) =>
  queryOptions({
    queryKey: ['trial', trialId, 'held-before'],
    queryFn: () => take(api.GET('/api/v1/trials/{id}/held-before', at(trialId))),
  });
export const guessOf = (question: string) =>
  take(api.GET('/api/v1/trials/guess', { params: { query: { question: question.trim() } } }));
/** What a question seems to be about. */
export const guessQuery = (question: string) =>
  queryOptions({
    queryKey: ['guess', question.trim()],
    queryFn: () => guessOf(question),
    enabled: question.trim() !== '',
    placeholderData: (before) => before,
  });
export const duplicateTrial = (id: string) => take(api.POST('/api/v1/trials/{id}/duplicate', at(id)));

export const hold = (trialId: string, field: string, letter: string) =>
  take(api.POST('/api/v1/trials/{id}/hold', { ...at(trialId), body: { field, letter } }));
export const takeKitOfNow = (trialId: string, kitItemId: string) =>
  take(api.POST('/api/v1/trials/{id}/kit-of-now', { ...at(trialId), body: { kit_item_id: kitItemId } }));
export const declare = (trialId: string, field: string, rule: Schemas['DeclareBody']['rule'], reason: string) =>
  take(api.POST('/api/v1/trials/{id}/declarations', { ...at(trialId), body: { field, rule, reason } }));
export const takeBack = (trialId: string, field: string) =>
  take(api.DELETE('/api/v1/trials/{id}/declarations/{field}', { params: { path: { id: trialId, field } } }));
