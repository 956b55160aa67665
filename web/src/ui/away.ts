import { Refused } from '../api/refused';

const ASK_AGAIN_MS = 2_000;
const NOT_FETCHED =
  /dynamically imported module|importing a module script|failed to fetch|load failed|unable to preload/i;

/** Whether the bench did not answer: nothing is wrong with the page then, and it will come back. */
export function isAway(error: unknown): boolean {
  if (error instanceof Refused) return error.status === 0 || error.status === 503;
  return error instanceof Error && NOT_FETCHED.test(error.message);
}

/** Asks until the bench answers again, then calls `back`. The answer ends the asking. */
export function untilBack(back: () => void, ask: () => Promise<boolean> = answers): () => void {
  let timer: ReturnType<typeof setTimeout>;
  let ended = false;
  const look = async () => {
    const there = await ask().catch(() => false);
    if (ended) return;
    if (there) back();
    else timer = setTimeout(look, ASK_AGAIN_MS);
  };
  timer = setTimeout(look, ASK_AGAIN_MS);
  return () => {
    ended = true;
    clearTimeout(timer);
  };
}

const answers = async () => (await fetch('/api/v1/health', { cache: 'no-store' })).ok;
