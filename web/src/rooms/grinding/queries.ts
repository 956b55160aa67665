import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type GrindRoom = Schemas['GrindRoom'];
export type Grind = Schemas['GrindShown'];
export type Measure = Schemas['MeasureShown'];
export type Sample = Schemas['SampleShown'];
export type SampleBody = Schemas['SampleBody'];
export type TableBody = Schemas['TableBody'];
export type Sieved = Schemas['SieveAnswer'];
export type Comparison = Schemas['ComparisonShown'];
export type Dose = Schemas['DoseShown'];
export type DoseBody = Schemas['DoseBody'];
export type FilterTest = Schemas['FilterTestShown'];
export type FilterTestBody = Schemas['FilterTestBody'];
export type Band = { from_um: number; to_um: number };
export type Fraction = { aperture_um: number; mass_g: number };

export const roomQuery = (band: Band | null) =>
  queryOptions({
    queryKey: ['grind', band?.from_um ?? 0, band?.to_um ?? 0],
    queryFn: () => take(api.GET('/api/v1/grind', { params: { query: band ?? {} } })),
    placeholderData: keepPreviousData,
  });

export const comparisonQuery = (first_id: string, second_id: string, band: Band) =>
  queryOptions({
    queryKey: ['grind', 'two', first_id, second_id, band.from_um, band.to_um],
    queryFn: () => take(api.POST('/api/v1/sieve-comparisons', { body: { first_id, second_id, band } })),
    placeholderData: keepPreviousData,
    retry: false,
  });

/** With the stack's usual band. */
export const sieveQuery = (mass_in_g: number, fractions: Fraction[], scale_step_g: number) =>
  queryOptions({
    queryKey: ['calc', 'sieve', mass_in_g, fractions, scale_step_g],
    queryFn: () => take(api.POST('/api/v1/calc/sieve', { body: { mass_in_g, fractions, band: null, scale_step_g } })),
    placeholderData: keepPreviousData,
    retry: false,
  });

export const tableQuery = (text: string, kind: TableBody['kind']) =>
  queryOptions({
    queryKey: ['calc', 'table', text, kind],
    queryFn: () => take(api.POST('/api/v1/calc/particle-table', { body: { text, kind: kind ?? null, band: null } })),
    enabled: text.trim() !== '',
    retry: false,
  });

const at = (id: string) => ({ params: { path: { id } } });
const atRev = (id: string, rev: number) => ({ params: { path: { id }, header: { 'If-Match': rev } } });

export const addSample = (body: SampleBody) => take(api.POST('/api/v1/sieve-samples', { body }));
export const editSample = (id: string, rev: number, body: SampleBody) =>
  take(api.PUT('/api/v1/sieve-samples/{id}', { ...atRev(id, rev), body }));
export const addTable = (body: TableBody) => take(api.POST('/api/v1/sieve-tables', { body }));
export const removeSample = (id: string) => take(api.DELETE('/api/v1/sieve-samples/{id}', at(id)));
export const makeMatch = (first_id: string, second_id: string, band: Band) =>
  take(api.POST('/api/v1/sieve-matches', { body: { first_id, second_id, band } }));
export const shakeSimulated = (dial_id: string, setting: number, stack_id: string, mass_in_g: number) =>
  take(api.POST('/api/v1/simulated-sieves', { body: { dial_id, setting, stack_id, mass_in_g } }));

export const simulateDose = (dial_id: string, beans_in_g: number) =>
  take(api.POST('/api/v1/simulated-doses', { body: { dial_id, beans_in_g } }));
export const addDose = (body: DoseBody) => take(api.POST('/api/v1/grinder-doses', { body }));
export const editDose = (id: string, rev: number, body: DoseBody) =>
  take(api.PUT('/api/v1/grinder-doses/{id}', { ...atRev(id, rev), body }));
export const removeDose = (id: string) => take(api.DELETE('/api/v1/grinder-doses/{id}', at(id)));
export const addFilterTest = (body: FilterTestBody) => take(api.POST('/api/v1/filter-tests', { body }));
export const removeFilterTest = (id: string) => take(api.DELETE('/api/v1/filter-tests/{id}', at(id)));
