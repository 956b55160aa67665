import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { Loaded } from '../../ui/Loading';
import { plural } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { stationPath, type TrialListed, trialsQuery } from '../progress/queries';
import { Rail } from '../progress/Rail';
import classes from './BenchPage.module.css';
import { EmptyBench } from './EmptyBench';
import { inOrderOfNeed } from './need';
import { benchQuery } from './queries';

const isSettled = (t: TrialListed) => t.next_station === 'verdict';
const pathOf = (t: TrialListed) => `/trials/${t.id}/${stationPath(t.next_station)}`;

/** Home: the one trial that needs you, large; the others as lines; what was found, led by the penny that was kept. */
export function BenchPage() {
  const bench = useQuery(benchQuery);
  const trials = useQuery(trialsQuery);
  return (
    <main className={classes.page}>
      <Loaded query={trials}>
        {(all) => {
          const [first, ...others] = inOrderOfNeed(all.filter((t) => !isSettled(t)));
          const settled = all.filter(isSettled);
          return (
            <>
              <header className={classes.head}>
                <div>
                  <h1>{bench.data?.name ?? 'Bench'}</h1>
                  {all.length > 0 && <p className="quiet">{summary(all)}</p>}
                </div>
                {all.length > 0 && (
                  <div className={classes.begin}>
                    <Button component={Link} to="/brew" size="md" variant="default">
                      Brew a cup
                    </Button>
                    <Button component={Link} to="/trials/new" size="md" variant={first ? 'default' : 'filled'}>
                      Ask a question
                    </Button>
                  </div>
                )}
              </header>
              {!!bench.data?.damaged && (
                <p className="card" role="status">
                  {plural(bench.data.damaged, 'row')} of this bench could not be read, and what{' '}
                  {bench.data.damaged === 1 ? 'it belongs' : 'they belong'} to was set aside.{' '}
                  <Link to="/in-and-out">See what, and put it back</Link>
                </p>
              )}
              {all.length === 0 && <EmptyBench />}
              {first && <Next trial={first} />}
              {all.length > 0 && !first && (
                <p className="card quiet">
                  Nothing is waiting. Ask a question: which filter, which ratio, is this grinder worth it?
                </p>
              )}
              {all.length > 0 && (
                <div className={classes.columns}>
                  {others.length > 0 && (
                    <section aria-labelledby="waiting">
                      <h2 id="waiting">Also waiting</h2>
                      <ul className={classes.lines}>
                        {others.map((t) => (
                          <Waiting key={t.id} trial={t} />
                        ))}
                      </ul>
                    </section>
                  )}
                  <section aria-labelledby="found">
                    <h2 id="found">Verdicts</h2>
                    <ul className={classes.lines}>
                      {settled.map((t) => (
                        <Verdict key={t.id} trial={t} />
                      ))}
                    </ul>
                    {!settled.length && <p className="quiet">No verdict yet: the first flip brings one.</p>}
                  </section>
                </div>
              )}
            </>
          );
        }}
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

/** The trial that needs you, with where it stands and the one thing to do. */
function Next({ trial: t }: { trial: TrialListed }) {
  return (
    <article className={classes.next} aria-label={t.question}>
      <p className="quiet">
        Trial {t.number} · {t.factor_label}
      </p>
      <div className={classes.asked}>
        <Coins letters={t.setups} size={64} />
        <h2>
          <Link to={pathOf(t)}>{t.question}</Link>
        </h2>
      </div>
      <div className={classes.going}>
        <Rail trialId={t.id} stops={t.stops} />
        <Button component={Link} to={pathOf(t)} size="lg">
          {t.next_action}
        </Button>
      </div>
    </article>
  );
}

function Waiting({ trial: t }: { trial: TrialListed }) {
  return (
    <li>
      <Link to={pathOf(t)} className={classes.line}>
        <Coins letters={t.setups} size={34} />
        <span>
          <b>{t.question}</b>
          <span className="quiet small">
            trial {t.number} · {t.next_action}
          </span>
        </span>
      </Link>
    </li>
  );
}

function Verdict({ trial: t }: { trial: TrialListed }) {
  return (
    <li>
      <Link to={`/trials/${t.id}/verdict`} className={classes.line}>
        {t.leans && (
          <span className={classes.leans}>
            <Penny stamp={t.leans} size={44} />
          </span>
        )}
        {!t.leans && <Coins letters={t.kept.length ? t.kept : t.setups} size={t.kept.length ? 44 : 28} />}
        <span>
          <b>{t.headline ?? (t.judging ? 'Being judged …' : 'Read the verdict')}</b>
          <span className="quiet small">
            {t.question} · trial {t.number}
          </span>
        </span>
      </Link>
    </li>
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
