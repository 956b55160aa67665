import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type Judged = Schemas['JudgedAnswer'];
export type VerdictAnswer = Schemas['VerdictAnswer'];
export type AttributeJudged = Schemas['AttributeJudged'];
export type Pairing = Schemas['PairingAnswer'];
export type CurveShown = Schemas['CurveShown'];
export type ValueAnswer = Schemas['ValueAnswer'];
export type NextStep = Schemas['NextStepShown'];

const at = (id: string) => ({ params: { path: { id } } });

export const verdictQuery = (id: string) =>
  queryOptions({
    queryKey: ['trial', id, 'verdict'],
    queryFn: () => take(api.GET('/api/v1/trials/{id}/verdict', at(id))),
  });
/** One attribute over all passes and in each; worked out by the bench when first asked for. */
export const attributeQuery = (id: string, attribute: string) =>
  queryOptions({
    queryKey: ['trial', id, 'verdict', 'attribute', attribute],
    queryFn: () =>
      take(api.GET('/api/v1/trials/{id}/verdict/attribute', { params: { path: { id }, query: { attribute } } })),
  });
export const charactersQuery = (id: string) =>
  queryOptions({
    queryKey: ['trial', id, 'verdict', 'characters'],
    queryFn: async () => (await take(api.GET('/api/v1/trials/{id}/verdict/characters', at(id)))).characters,
  });
export const pairingQuery = (id: string, attribute: string) =>
  queryOptions({
    queryKey: ['trial', id, 'verdict', 'pairing', attribute],
    queryFn: () =>
      take(api.GET('/api/v1/trials/{id}/verdict/pairing', { params: { path: { id }, query: { attribute } } })),
  });
export const trendsQuery = (id: string) =>
  queryOptions({
    queryKey: ['trial', id, 'verdict', 'trends'],
    queryFn: async () => (await take(api.GET('/api/v1/trials/{id}/verdict/trends', at(id)))).text,
  });
export const valueQuery = (id: string) =>
  queryOptions({
    queryKey: ['trial', id, 'verdict', 'value'],
    queryFn: () => take(api.GET('/api/v1/trials/{id}/verdict/value', at(id))),
  });
export const nextQuery = (id: string) =>
  queryOptions({
    queryKey: ['trial', id, 'verdict', 'next'],
    queryFn: () => take(api.GET('/api/v1/trials/{id}/verdict/next', at(id))),
  });
export const draftNext = ({ id, code }: { id: string; code: NextStep['code'] }) =>
  take(api.POST('/api/v1/trials/{id}/verdict/next', { ...at(id), body: { code } }));
