import createClient from 'openapi-fetch';
import { type Problem, Refused } from './refused';
import type { components, paths } from './schema';

export { Refused } from './refused';

export type Schemas = components['schemas'];

/** Who this device is used as; on the sample bench somebody of its own. */
const PERSON_KEY = document.cookie.includes('penny_bench=sample') ? 'penny.person.sample' : 'penny.person';

export const person = {
  get: () => localStorage.getItem(PERSON_KEY) ?? '',
  set: (id: string) => (id ? localStorage.setItem(PERSON_KEY, id) : localStorage.removeItem(PERSON_KEY)),
};

export const api = createClient<paths>({
  baseUrl: window.location.origin,
  fetch: (request) => globalThis.fetch(request),
});

api.use({
  onRequest({ request }) {
    const who = person.get();
    if (who) request.headers.set('X-Penny-Person', who);
    return request;
  },
});

type Reply<T> = Promise<{ data?: T; error?: unknown; response: Response }>;

/** The answer's body, or a Refused. */
export async function take<T>(reply: Reply<T>): Promise<T> {
  const { data, error, response } = await reply.catch(() => {
    throw new Refused(0, null);
  });
  if (data !== undefined && response.ok) return data;
  const problem = error as Problem | undefined;
  throw new Refused(response.status, problem?.title ? { ...problem, errors: problem.errors ?? [] } : null);
}
