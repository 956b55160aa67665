import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type Problem = Schemas['Problem'];

const PERSON_KEY = 'penny.person';

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

/** A refusal of the bench: its words, and which field each belongs to. */
export class Refused extends Error {
  readonly status: number;
  readonly problem: Problem | null;

  constructor(status: number, problem: Problem | null, said?: string) {
    super(
      said ?? (problem ? sentence(problem) : 'The bench does not answer. Nothing was lost; try again in a moment.'),
    );
    this.status = status;
    this.problem = problem;
  }

  /** What is said about one field, or undefined. */
  at(field: string): string | undefined {
    const found = this.problem?.errors?.find((e) => e.field === field || e.field.startsWith(`${field}.`));
    return found && said(found);
  }

  /** What is said of each field, one after the other. */
  sentences(): string[] {
    return (this.problem?.errors ?? []).map(said);
  }
}

const said = (error: { reason: string; remedy: string }) => `${capital(error.reason)} ${error.remedy}`;

function sentence(problem: Problem): string {
  const [first] = problem.errors ?? [];
  return first ? said(first) : `${problem.title}. ${problem.detail}`;
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

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
