import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export const extractionQuery = (body: Schemas['ExtractionBody'] | null) =>
  queryOptions({
    queryKey: ['calc', 'extraction', body],
    queryFn: () => take(api.POST('/api/v1/calc/extraction', { body: body! })),
    enabled: body !== null,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });

export const dilutionQuery = (body: Schemas['DilutionBody'] | null) =>
  queryOptions({
    queryKey: ['calc', 'dilution', body],
    queryFn: () => take(api.POST('/api/v1/calc/dilution', { body: body! })),
    enabled: body !== null,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });

export const solveQuery = (body: Schemas['SolveBody'] | null) =>
  queryOptions({
    queryKey: ['calc', 'solve', body],
    queryFn: () => take(api.POST('/api/v1/calc/solve', { body: body! })),
    enabled: body !== null,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });

export const discriminationQuery = (body: Schemas['DiscriminationBody'] | null) =>
  queryOptions({
    queryKey: ['calc', 'discrimination', body],
    queryFn: () => take(api.POST('/api/v1/calc/discrimination', { body: body! })),
    enabled: body !== null,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });

export const discriminationPlanQuery = (body: Schemas['DiscriminationPlanBody']) =>
  queryOptions({
    queryKey: ['calc', 'discrimination-plan', body],
    queryFn: () => take(api.POST('/api/v1/calc/discrimination-plan', { body })),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
