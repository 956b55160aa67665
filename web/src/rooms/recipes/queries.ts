import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type RecipeDocument = Schemas['RecipeDocument'];
export type StepDocument = Schemas['StepDocument'];
export type GrindSettingDocument = Schemas['GrindSettingDocument'];
export type StepKind = StepDocument['kind'];
export type Checked = Schemas['CheckedAnswer'];
export type Finding = Schemas['FindingAnswer'];
export type TimedStep = Schemas['TimedStep'];
export type Recipe = Schemas['RecipeAnswer'];
export type RecipeListed = Schemas['RecipeListed'];
export type ReadText = Schemas['ReadAnswer'];
export type Card = Schemas['CardAnswer'];
export type CardQuery = { version?: number; dial_id?: string; setting?: string; coffee?: string; heat?: 'C' | 'F' };
export type Window = 'classic' | 'european' | 'nordic';

export type LastBrewed = Schemas['LastBrewedAnswer'];
export const lastBrewedQuery = (id: string) =>
  queryOptions({
    queryKey: ['recipe', id, 'last-brewed'],
    queryFn: () => take(api.GET('/api/v1/recipes/{id}/last-brewed', { params: { path: { id } } })),
    enabled: id !== '',
  });
export const recipesQuery = queryOptions({
  queryKey: ['recipes'],
  queryFn: () => take(api.GET('/api/v1/recipes')),
});

export const recipeQuery = (id: string, version?: number) =>
  queryOptions({
    queryKey: ['recipes', id, version ?? 'newest'],
    queryFn: () =>
      take(
        api.GET('/api/v1/recipes/{id}', { params: { path: { id }, query: version === undefined ? {} : { version } } }),
      ),
  });

export const startersQuery = queryOptions({
  queryKey: ['recipe-starters'],
  queryFn: () => take(api.GET('/api/v1/recipe-starters')),
  staleTime: Number.POSITIVE_INFINITY,
});

/** Findings, timeline and sums of a document being written. */
export const checkQuery = (document: RecipeDocument, brewer = '', windows: Window[] = []) =>
  queryOptions({
    queryKey: ['recipe-check', document, brewer, windows],
    queryFn: () => take(api.POST('/api/v1/recipe-check', { body: { document, brewer, windows } })),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
  });

export const diffQuery = (before: RecipeDocument, after: RecipeDocument) =>
  queryOptions({
    queryKey: ['recipe-diff', before, after],
    queryFn: () => take(api.POST('/api/v1/recipe-diff', { body: { before, after } })),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
  });

export const cardQuery = (id: string, query: CardQuery) =>
  queryOptions({
    queryKey: ['recipes', id, 'card', query],
    queryFn: () => take(api.GET('/api/v1/recipes/{id}/card', { params: { path: { id }, query } })),
    placeholderData: keepPreviousData,
  });

export const readText = (text: string) => take(api.POST('/api/v1/calc/recipe-parse', { body: { text } }));
export const scaleRecipe = (body: Schemas['ScaleBody']) => take(api.POST('/api/v1/recipe-scale', { body }));
export const addRecipe = (name: string, document: RecipeDocument, note: string) =>
  take(api.POST('/api/v1/recipes', { body: { name, document, note } }));

const atRev = (id: string, rev: number) => ({ params: { path: { id }, header: { 'If-Match': rev } } });
export const addVersion = (id: string, rev: number, document: RecipeDocument, note: string) =>
  take(api.POST('/api/v1/recipes/{id}/versions', { ...atRev(id, rev), body: { document, note } }));
export const renameRecipe = (id: string, rev: number, name: string) =>
  take(api.PATCH('/api/v1/recipes/{id}', { ...atRev(id, rev), body: { name } }));
export const removeRecipe = (id: string) => take(api.DELETE('/api/v1/recipes/{id}', { params: { path: { id } } }));

export const linkQuery = (id: string) =>
  queryOptions({
    queryKey: ['recipe', id, 'link'],
    queryFn: () => take(api.GET('/api/v1/recipes/{id}/link', { params: { path: { id } } })),
  });
export const lookAtHanded = (text: string) => take(api.POST('/api/v1/recipes-handed', { body: { text } }));
export const importRecipes = (text: string) => take(api.POST('/api/v1/recipes-import', { body: { text } }));
