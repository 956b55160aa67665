import { api, take } from '../../api/client';

export const enterSample = () => take(api.POST('/api/v1/sample-bench'));
export const leaveSample = () => take(api.PATCH('/api/v1/sample-bench', { body: { in_sample: false } }));
export const removeSample = () => take(api.DELETE('/api/v1/sample-bench'));

/** Anew, so that nothing of the one bench is shown on the other. */
export const toTheBench = () => window.location.assign('/');
