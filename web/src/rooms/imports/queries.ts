import { api, type Schemas, take } from '../../api/client';

export type TableRead = Schemas['BrewTableAnswer'];
export type ColumnMeaning = Schemas['ColumnMeaning'];

export const lookAt = (body: Schemas['BrewTableBody']) => take(api.POST('/api/v1/imports/look', { body }));
export const bringIn = (body: Schemas['BrewTableWrite']) => take(api.POST('/api/v1/imports', { body }));
