import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { clock } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { call } from '../../ui/sound';
import classes from './Along.module.css';
import { calledOf, laneSays, whereIs } from './marks';
import { type LiveBrew, liveBrewsQuery } from './queries';

const POLL_MS = 3000;

/** Another brew calls by its own pitch when it wants a hand. */
function Call({ which }: { which: number }) {
  useEffect(() => call(which), [which]);
  return null;
}

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
      {brews.map((b, i) => {
        const at = b.started_at ? b.elapsed_s + (Math.max(0, now - seen) / 1000) * b.speed : 0;
        const { current, next } = whereIs(b);
        const wants = current && current.start_s > at ? current : next;
        const soon = wants !== undefined && b.started_at !== null && Math.abs(wants.start_s - at) < b.ahead_s;
        return (
          <Link key={b.id} to={`/live-brews/${b.id}`} className={classes.lane} data-soon={soon || undefined}>
            {soon && <Call key={wants.index} which={i + 1} />}
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
