import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, take } from '../../api/client';

export type Photo = Schemas['PhotoShown'];
export type PhotoKind = Photo['kind'];

const at = (id: string) => ({ params: { path: { id } } });

/** Of all brews of a trial at once. */
export const trialPhotosQuery = (trialId: string) =>
  queryOptions({
    queryKey: ['trial', trialId, 'photos'],
    queryFn: async () => (await take(api.GET('/api/v1/trials/{id}/photos', at(trialId)))).photos,
  });
export const runPhotosQuery = (runId: string) =>
  queryOptions({
    queryKey: ['run', runId, 'photos'],
    queryFn: async () => (await take(api.GET('/api/v1/runs/{id}/photos', at(runId)))).photos,
  });
export const addPhoto = (runId: string, kind: PhotoKind, data: string) =>
  take(api.POST('/api/v1/runs/{id}/photos', { params: { path: { id: runId } }, body: { kind, data } }));
export const removePhoto = (id: string) => take(api.DELETE('/api/v1/photos/{id}', { params: { path: { id } } }));
