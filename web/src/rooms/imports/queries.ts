import { api, type Schemas, take } from '../../api/client';
import { toldAsItGoes } from '../../api/lines';

export type BrewTableRead = Schemas['BrewTableAnswer'];
export type ScoreTableRead = Schemas['ScoreTableAnswer'];
export type TableRead = Pick<
  BrewTableRead,
  'columns' | 'targets' | 'days_unclear' | 'day_first' | 'known' | 'fault_count' | 'fault_rows' | 'faults'
>;
export type ColumnMeaning = Schemas['ColumnMeaning'];

export const lookAt = (body: Schemas['OwnTableBody']) => take(api.POST('/api/v1/imports/look', { body }));
export const bringIn = (body: Schemas['BrewTableWrite'], onStep: (done: number, of: number) => void) =>
  toldAsItGoes<Schemas['BroughtInAnswer']>('/api/v1/imports', body, onStep);
export const lookAtScores = (body: Schemas['ScoreTableBody']) =>
  take(api.POST('/api/v1/imports/scores/look', { body }));
export const bringInScores = (body: Schemas['ScoreTableWrite']) => take(api.POST('/api/v1/imports/scores', { body }));
