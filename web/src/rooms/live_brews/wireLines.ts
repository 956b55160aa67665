import type { WeighLine } from './queries';

type Heard = { at_ms: number; text: string };

const LONGEST = 80;
const MOST_WAITING = 400;
const OLDEST_S = 110;

/** Lines as they come from a scale in pieces, each with the moment its end came, until the bench has taken them. */
export class Waiting {
  private heard: Heard[] = [];
  private piece = '';

  hear(text: string, now_ms: number) {
    const lines = (this.piece + text).split(/\r\n|\n|\r/);
    this.piece = lines.pop()!.slice(-LONGEST);
    for (const line of lines) {
      if (line.trim()) this.heard.push({ at_ms: now_ms, text: line.trim().slice(0, LONGEST) });
    }
    this.heard = this.heard.slice(-MOST_WAITING);
  }

  /** Everything not sent yet, each so many seconds old. */
  take(now_ms: number): WeighLine[] {
    const lines = this.heard.map((h) => ({ ago_s: Math.max(0, now_ms - h.at_ms) / 1000, text: h.text }));
    this.heard = [];
    return lines.filter((l) => l.ago_s < OLDEST_S);
  }

  /** What the bench did not take: it goes first the next time. */
  putBack(lines: WeighLine[], now_ms: number) {
    const again = lines.map((l) => ({ at_ms: now_ms - 1000 * l.ago_s, text: l.text }));
    this.heard = [...again, ...this.heard].slice(-MOST_WAITING);
  }
}
