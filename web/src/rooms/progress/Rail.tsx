import { NavLink } from 'react-router';
import { type Stop, stationPath } from './queries';
import classes from './Rail.module.css';

const STATE_WORDS = { done: 'done', current: 'next', todo: 'to come', stuck: 'stuck' } as const;

/** The six stations of a trial: what is done, what is next, what is stuck. Any can be visited at any time. */
export function Rail({ trialId, stops }: { trialId: string; stops: Stop[] }) {
  return (
    <nav className={classes.rail} aria-label="Stations of this trial">
      {stops.map((stop) => (
        <NavLink
          key={stop.station}
          to={`/trials/${trialId}/${stationPath(stop.station)}`}
          className={classes.stop}
          data-state={stop.state}
        >
          <span className={classes.dot} aria-hidden />
          <span className={classes.label}>{stop.label}</span>
          <span className={classes.note}>{stop.note || STATE_WORDS[stop.state]}</span>
          <span className="sr-only">, {STATE_WORDS[stop.state]}</span>
        </NavLink>
      ))}
    </nav>
  );
}

/** The same rail as six dots, for lists. */
export function RailDots({ stops }: { stops: Stop[] }) {
  const done = stops.filter((s) => s.state === 'done').length;
  return (
    <span className={classes.dots} role="img" aria-label={`${done} of ${stops.length} stations done`}>
      {stops.map((stop) => (
        <span
          key={stop.station}
          className={classes.mini}
          data-state={stop.state}
          title={`${stop.label}: ${stop.note}`}
        />
      ))}
    </span>
  );
}
