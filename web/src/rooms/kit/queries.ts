import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type Kit = Schemas['KitAnswer'];
export type KitItem = Schemas['KitItemAnswer'];
export type KitKind = KitItem['kind'];
export type KitBody = Schemas['KitBody'];
export type KitPatch = Schemas['KitPatch'];
export type KitDetail = Schemas['KitDetail'];
export type Settings = Schemas['SettingsAnswer'];
export type Pair = Schemas['PairAnswer'];
export type PairBody = Schemas['PairBody'];
export type Scale = Schemas['GrinderScaleAnswer'];
export type Translation = Schemas['TranslationAnswer'];
export type BlendBody = Schemas['BlendBody'];

export const kitQuery = queryOptions({
  queryKey: ['kit'],
  queryFn: () => take(api.GET('/api/v1/kit')),
});

const at = (id: string) => ({ params: { path: { id } } });
const atRev = (id: string, rev: number) => ({ params: { path: { id }, header: { 'If-Match': rev } } });

export const learntQuery = (id: string) =>
  queryOptions({
    queryKey: ['kit', id, 'learnt'],
    queryFn: () => take(api.GET('/api/v1/kit/{id}/learnt', { params: { path: { id } } })),
    retry: false,
  });

export const kitItemQuery = (id: string) =>
  queryOptions({ queryKey: ['kit', id], queryFn: () => take(api.GET('/api/v1/kit/{id}', at(id))) });

export const addKitItem = (body: KitBody) => take(api.POST('/api/v1/kit', { body }));
export const editKitItem = (id: string, rev: number, body: KitPatch) =>
  take(api.PATCH('/api/v1/kit/{id}', { ...atRev(id, rev), body }));
export const removeKitItem = (id: string) => take(api.DELETE('/api/v1/kit/{id}', at(id)));
export const retireKitItem = (id: string, rev: number) => take(api.POST('/api/v1/kit/{id}/retire', atRev(id, rev)));
export const unretireKitItem = (id: string, rev: number) => take(api.DELETE('/api/v1/kit/{id}/retire', atRev(id, rev)));
export const addStock = (id: string, mass_g: number, note: string) =>
  take(api.POST('/api/v1/kit/{id}/stock', { ...at(id), body: { mass_g, note } }));

export const settingsQuery = queryOptions({
  queryKey: ['matched-settings'],
  queryFn: () => take(api.GET('/api/v1/matched-settings')),
});

export const addPair = (body: PairBody) => take(api.POST('/api/v1/matched-settings', { body }));
export const editPair = (id: string, rev: number, body: PairBody) =>
  take(api.PUT('/api/v1/matched-settings/{id}', { ...atRev(id, rev), body }));
export const removePair = (id: string) => take(api.DELETE('/api/v1/matched-settings/{id}', at(id)));

/** A setting on another grinder; a refusal (no match, outside what was matched) is an answer of its own. */
export const translateQuery = (from_id: string, to_id: string, setting: number) =>
  queryOptions({
    queryKey: ['translate', from_id, to_id, setting],
    queryFn: () => take(api.POST('/api/v1/translate', { body: { from_id, to_id, setting } })),
    placeholderData: keepPreviousData,
    retry: false,
  });

export const blendWaters = (body: BlendBody) => take(api.POST('/api/v1/blend', { body }));

export type HardnessUnit = 'mg_l_caco3' | 'dh' | 'fh' | 'gpg' | 'mmol_l';
export const convertHardness = async (value: number, from: HardnessUnit) =>
  (
    await take(
      api.POST('/api/v1/calc/convert', {
        body: { value, from, to: 'mg_l_caco3', water_temp_c: 20, brix_factor: 0.85 },
      }),
    )
  ).value;
