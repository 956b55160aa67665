import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { Loaded } from '../../ui/Loading';
import { flightQuery } from './queries';
import classes from './Sheet.module.css';
import { SheetView } from './SheetPage';

type Place = { kind: 'round' } | { kind: 'cover' | 'sheet'; sheet: string };

/** One tablet passed round: a cover stands between one taster's sheet and the next. */
export function TabletPage() {
  const { id = '' } = useParams();
  const flight = useQuery(flightQuery(id));
  const [place, setPlace] = useState<Place>({ kind: 'round' });
  return (
    <Loaded query={flight}>
      {(f) => {
        const seat = place.kind === 'round' ? undefined : f.sheets.find((s) => s.id === place.sheet);
        if (place.kind === 'sheet' && seat?.link) {
          const back = () => {
            setPlace({ kind: 'round' });
            flight.refetch();
          };
          return <SheetView key={seat.id} token={seat.link.split('/').pop()!} onHandOn={back} />;
        }
        if (place.kind === 'cover' && seat) {
          return (
            <main className={classes.page}>
              <section className={classes.rest}>
                <h1>Hand the tablet to {seat.name}</h1>
                <p className="quiet">Only {seat.name} looks from here on.</p>
                <button
                  type="button"
                  className={classes.primary}
                  onClick={() => setPlace({ kind: 'sheet', sheet: seat.id })}
                >
                  I am {seat.name}
                </button>
                <button type="button" className={classes.secondary} onClick={() => setPlace({ kind: 'round' })}>
                  Somebody else
                </button>
              </section>
            </main>
          );
        }
        return (
          <main className={classes.page}>
            <h1>Who tastes now?</h1>
            <ol className={classes.cups}>
              {f.sheets
                .filter((s) => s.link && !s.left_at)
                .map((s) => (
                  <li key={s.id}>
                    <button
                      type="button"
                      className={classes.cupButton}
                      onClick={() => setPlace({ kind: 'cover', sheet: s.id })}
                    >
                      <span>
                        <b>{s.name}</b>
                        <span className="small quiet">
                          {s.scored} of {s.of} done
                        </span>
                      </span>
                    </button>
                  </li>
                ))}
            </ol>
            <p className="small">
              <Link to={`/trials/${f.trial_id}/taste`}>Back to the flight</Link>
            </p>
          </main>
        );
      }}
    </Loaded>
  );
}
