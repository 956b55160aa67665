import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { blindingOf } from '../../api/words';
import { Loaded } from '../../ui/Loading';
import { resultsQuery } from '../measuring/queries';
import { FlightPanel } from './FlightPanel';
import { NewFlight } from './NewFlight';
import { type Flight, flightsQuery } from './queries';
import classes from './Taste.module.css';

const STATUS_WORDS = { open: 'being tasted', closed: 'to flip', flipped: 'flipped' } as const;

/** Taste: one flight at a time, chosen from those made so far. */
export function TasteStation() {
  const { id = '' } = useParams();
  const flights = useQuery(flightsQuery(id));
  const results = useQuery(resultsQuery(id));
  const [chosen, setChosen] = useState<string | null>(null);
  return (
    <Loaded query={flights}>
      {(all) => (
        <Loaded query={results}>
          {(r) => {
            const setups = new Set(r.runs.map((run) => run.setup_id)).size;
            if (setups < 2) return <TooFewBrews trialId={id} />;
            const shown = chosen === 'new' ? null : (all.find((f) => f.id === chosen) ?? wanting(all));
            return (
              <>
                {all.length > 0 && (
                  <nav className={classes.flights} aria-label="Flights">
                    {all.map((f) => (
                      <button
                        key={f.id}
                        type="button"
                        className={classes.flightTab}
                        aria-pressed={shown?.id === f.id}
                        onClick={() => setChosen(f.id)}
                      >
                        <b>Flight {f.number}</b>
                        <span className="small">
                          {f.method === 'scores' ? '' : `${f.method_label.toLowerCase()} · `}
                          {blindingOf(f.blinding)?.sighted ? 'sighted' : 'blind'}
                          {blindingOf(f.blinding)?.elsewhere && ', elsewhere'} · {STATUS_WORDS[f.status]}
                        </span>
                      </button>
                    ))}
                    <button
                      type="button"
                      className={classes.flightTab}
                      aria-pressed={!shown}
                      onClick={() => setChosen('new')}
                    >
                      <b>+ New flight</b>
                      <span className="small">more cups, more days</span>
                    </button>
                  </nav>
                )}
                {shown ? (
                  <FlightPanel key={shown.id} flight={shown} onGone={() => setChosen(null)} />
                ) : (
                  <NewFlight trialId={id} runs={r.runs} setups={r.setups} onMade={(f) => setChosen(f.id)} />
                )}
              </>
            );
          }}
        </Loaded>
      )}
    </Loaded>
  );
}

/** The flight that wants something done, else the newest. */
function wanting(all: Flight[]): Flight | null {
  return all.find((f) => f.status === 'closed') ?? all.find((f) => f.status === 'open') ?? all[all.length - 1] ?? null;
}

function TooFewBrews({ trialId }: { trialId: string }) {
  return (
    <div className="card">
      <p>A flight needs a brew of at least two setups.</p>
      <Button mt="sm" component={Link} to={`/trials/${trialId}/brew`}>
        Log a brew
      </Button>
    </div>
  );
}
