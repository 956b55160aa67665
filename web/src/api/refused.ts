import type { components } from './schema';

export type Problem = components['schemas']['Problem'];

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
  return first ? said(first) : `${problem.title.replace(/\.$/, '')}. ${problem.detail}`;
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
