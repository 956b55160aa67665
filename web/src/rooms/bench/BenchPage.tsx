import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { Loaded } from '../../ui/Loading';
import { plural } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { stationPath, type TrialListed, trialsQuery } from '../rails/queries';
import { RailDots } from '../rails/Rail';
import classes from './BenchPage.module.css';
import { DevicesCard } from './DevicesCard';
import { EmptyBench } from './EmptyBench';
import { InstrumentsCard } from './InstrumentsCard';
import { PeopleCard } from './PeopleCard';
import { benchQuery } from './queries';

const isSettled = (t: TrialListed) => t.next_station === 'verdict';

/** Home: what to do next, on every trial that is not finished; what was found on those that are. */
export function BenchPage() {
  const bench = useQuery(benchQuery);
  const trials = useQuery(trialsQuery);
  return (
    <main className={classes.page}>
      <header className={classes.head}>
        <div>
          <h1>{bench.data?.name ?? 'Bench'}</h1>
          <p className="quiet">{trials.data ? summary(trials.data) : ' '}</p>
        </div>
        {trials.data && trials.data.length > 0 && (
          <div className={classes.begin}>
            <Button component={Link} to="/brew" size="md" variant="default">
              Brew a cup
            </Button>
            <Button component={Link} to="/trials/new" size="md">
              Ask a question
            </Button>
          </div>
        )}
      </header>
      <Loaded query={trials}>
        {(all) => (
          <div className={all.length ? classes.columns : classes.first}>
            {all.length === 0 ? (
              <EmptyBench />
            ) : (
              <section aria-labelledby="next">
                <h2 id="next">Next on the bench</h2>
                {all
                  .filter((t) => !isSettled(t))
                  .map((t) => (
                    <NextCard key={t.id} trial={t} />
                  ))}
                {!all.some((t) => !isSettled(t)) && (
                  <p className="card quiet">
                    Nothing is waiting. Ask a question: which filter, which ratio, is this grinder worth it?
                  </p>
                )}
                <h2 id="found">Verdicts</h2>
                {all.filter(isSettled).map((t) => (
                  <Link key={t.id} to={`/trials/${t.id}/verdict`} className={classes.found}>
                    <Coins letters={t.setups} size={30} />
                    <span>
                      <b>{t.headline ?? 'Read the verdict'}</b>
                      <span className="quiet small">
                        {t.question} · trial {t.number}
                      </span>
                    </span>
                  </Link>
                ))}
                {!all.some(isSettled) && <p className="quiet">No verdict yet.</p>}
              </section>
            )}
            <section aria-label="The bench itself" className={all.length ? classes.side : classes.aside}>
              <PeopleCard />
              <InstrumentsCard />
              <DevicesCard />
            </section>
          </div>
        )}
      </Loaded>
    </main>
  );
}

function summary(trials: TrialListed[]): string {
  const waiting = trials.filter((t) => !isSettled(t)).length;
  const found = trials.length - waiting;
  const verdicts = found ? `${plural(found, 'verdict')} so far` : 'no verdict yet';
  return waiting
    ? `${plural(waiting, 'trial')} ${waiting === 1 ? 'needs' : 'need'} something from you, ${verdicts}.`
    : `${verdicts[0]!.toUpperCase()}${verdicts.slice(1)}.`;
}

function NextCard({ trial }: { trial: TrialListed }) {
  return (
    <article className={classes.next}>
      <Coins letters={trial.setups} size={40} />
      <div className={classes.what}>
        <h3>
          <Link to={`/trials/${trial.id}/${stationPath(trial.next_station)}`}>{trial.question}</Link>
        </h3>
        <p className="quiet small">
          Trial {trial.number} · {trial.factor_label}
        </p>
        <RailDots stops={trial.stops} />
      </div>
      <Button component={Link} to={`/trials/${trial.id}/${stationPath(trial.next_station)}`} variant="light">
        {trial.next_action}
      </Button>
    </article>
  );
}

function Coins({ letters, size }: { letters: string[]; size: number }) {
  if (!letters.length)
    return (
      <span className={classes.blank} style={{ width: size, height: size }} role="img" aria-label="No setups yet" />
    );
  return (
    <span className={classes.coins}>
      {letters.map((letter) => (
        <Penny key={letter} stamp={letter} size={size} />
      ))}
    </span>
  );
}
