import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { clock } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import classes from './Along.module.css';
import { calledOf } from './BrewAlong';
import { type LiveBrew, type LiveStep, liveBrewsQuery } from './queries';

const POLL_MS = 3000;

/** The other brews on the bench, each in a lane of its own: which step it is at, and when it wants a hand next. */
export function Lanes({ own }: { own: LiveBrew }) {
  const others = useQuery({ ...liveBrewsQuery(null), refetchInterval: POLL_MS });
  const [now, setNow] = useState(() => performance.now());
  useEffect(() => {
    const timer = window.setInterval(() => setNow(performance.now()), 1000);
    return () => window.clearInterval(timer);
  }, []);
  const brews = (others.data?.brews ?? []).filter((b) => b.id !== own.id);
  if (!brews.length) return null;
  const seen = others.dataUpdatedAt + performance.now() - Date.now();
  return (
    <nav className={classes.lanes} aria-label="Other brews on the bench">
      {brews.map((b) => {
        const at = b.started_at ? b.elapsed_s + (Math.max(0, now - seen) / 1000) * b.speed : 0;
        const { current, next } = whereIs(b);
        const wants = current && current.start_s > at ? current : next;
        const soon = wants !== undefined && b.started_at !== null && Math.abs(wants.start_s - at) < b.ahead_s;
        return (
          <Link key={b.id} to={`/along/${b.id}`} className={classes.lane} data-soon={soon || undefined}>
            <Penny stamp={b.letter} size={30} />
            <b>{calledOf(b)}</b>
            <span className="num">{b.started_at ? clock(at) : 'ready'}</span>
            <span>{laneSays(b, at, current, wants)}</span>
          </Link>
        );
      })}
    </nav>
  );
}

const LONG_OVER_S = 120;

function laneSays(b: LiveBrew, at: number, current: LiveStep | undefined, wants: LiveStep | undefined): string {
  if (!b.started_at) return 'waits for its first water';
  if (at > b.total_s + LONG_OVER_S) return 'over by its plan: weigh it, or give it up';
  if (current && current.start_s <= at && at < current.end_s) return `${current.text} until ${clock(current.end_s)}`;
  return wants ? `${wants.text} at ${clock(wants.start_s)}` : (current?.text ?? 'drains');
}

function whereIs(b: LiveBrew) {
  const done = new Set(b.marks.filter((m) => m.kind === 'step_done').map((m) => m.index));
  const [current, next] = b.steps.filter((s) => !done.has(s.index));
  return { current, next };
}
