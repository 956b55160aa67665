import { person } from './client';
import { readLines } from './lineReader';
import { type Problem, Refused } from './refused';

type Line<T> = { done: number; of: number } | { answer: T } | { problem: Problem };

/** Sends something that takes a while, and hears line by line how far the bench is with it. The answer, or a Refused. */
export async function toldAsItGoes<T>(path: string, body: object | File, onStep: (done: number, of: number) => void) {
  const who = person.get();
  const response = await fetch(path, {
    method: 'POST',
    headers: {
      'Content-Type': body instanceof File ? 'application/zip' : 'application/json',
      Accept: 'application/x-ndjson',
      ...(who && { 'X-Penny-Person': who }),
    },
    body: body instanceof File ? body : JSON.stringify(body),
  }).catch(() => {
    throw new Refused(0, null);
  });
  if (!response.ok || !response.body) {
    throw new Refused(response.status, await response.json().catch(() => null));
  }
  for await (const line of readLines<Line<T>>(response.body)) {
    if ('answer' in line) return line.answer;
    if ('problem' in line) throw new Refused(line.problem.status, line.problem);
    onStep(line.done, line.of);
  }
  throw new Refused(0, null); // it ended before it said what it came to
}
