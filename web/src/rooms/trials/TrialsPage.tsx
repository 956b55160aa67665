import { Button } from '@mantine/core';
import { useInfiniteQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { Loaded } from '../../ui/Loading';
import { Penny } from '../../ui/Penny';
import { Sideways } from '../../ui/Sideways';
import { DeletedLately } from '../history/DeletedLately';
import { allTrialsQuery, stationPath } from '../rails/queries';
import { RailDots } from '../rails/Rail';
import classes from './TrialsPage.module.css';

/** Every trial, newest first, with where it stands or what it found. */
export function TrialsPage() {
  const trials = useInfiniteQuery(allTrialsQuery);
  return (
    <main className={classes.page}>
      <header className={classes.head}>
        <h1>Trials</h1>
        <Button component={Link} to="/trials/new" size="md">
          Ask a question
        </Button>
      </header>
      <Loaded query={trials}>
        {({ pages }) =>
          pages[0]?.trials.length ? (
            <Sideways className={classes.scroll} label="All trials">
              <table className={classes.table}>
                <thead>
                  <tr>
                    <th scope="col">No.</th>
                    <th scope="col">Question</th>
                    <th scope="col">Compares</th>
                    <th scope="col">Setups</th>
                    <th scope="col">Stations</th>
                    <th scope="col">Found, or next</th>
                  </tr>
                </thead>
                <tbody>
                  {pages
                    .flatMap((page) => page.trials)
                    .map((t) => (
                      <tr key={t.id}>
                        <td className="num">{t.number}</td>
                        <td>
                          <Link className={classes.link} to={`/trials/${t.id}/${stationPath(t.next_station)}`}>
                            {t.question}
                          </Link>
                        </td>
                        <td>{t.factor_label}</td>
                        <td>
                          <span className={classes.coins}>
                            {t.setups.map((letter) => (
                              <Penny key={letter} stamp={letter} size={26} />
                            ))}
                          </span>
                        </td>
                        <td>
                          <RailDots stops={t.stops} />
                        </td>
                        <td>{t.headline ? <b>{t.headline}</b> : <span className="quiet">{t.next_action}</span>}</td>
                      </tr>
                    ))}
                </tbody>
              </table>
            </Sideways>
          ) : (
            <p className="card">No trial yet. Every trial starts with one question.</p>
          )
        }
      </Loaded>
      {trials.hasNextPage && (
        <Button mt="md" variant="default" loading={trials.isFetchingNextPage} onClick={() => trials.fetchNextPage()}>
          Show older trials
        </Button>
      )}
      <DeletedLately />
    </main>
  );
}
