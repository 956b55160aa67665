import { Button } from '@mantine/core';
import { Link } from 'react-router';
import { Penny } from '../../ui/Penny';
import { useSend } from '../../ui/useSend';
import classes from './EmptyBench.module.css';
import { enterSample, toTheBench } from './sample';

const SHOWN = [
  { letter: 'A', code: '417', from: 46, to: 78, at: 62 },
  { letter: 'B', code: '902', from: 58, to: 92, at: 75 },
  { letter: 'C', code: '356', from: 14, to: 44, at: 29 },
];

/** A bench nobody has worked on yet: what it promises, a small picture of how that looks, and the ways in. */
export function EmptyBench() {
  const look = useSend(enterSample, { onDone: toTheBench, leaves: true });
  return (
    <section className={`card ${classes.empty}`} aria-labelledby="promise">
      <div>
        <h2 id="promise">Which of two ways makes the better cup?</h2>
        <p>
          Brew both, taste them without knowing which is which, and read which one to keep, how sure that is, and what
          to brew next.
        </p>
        <div className={classes.ways}>
          <Button component={Link} to="/trials/new" size="md">
            Ask your first question
          </Button>
          <Button component={Link} to="/brew" size="md" variant="default">
            Brew a cup
          </Button>
          <Button size="md" variant="default" loading={look.isPending} onClick={() => look.mutate()}>
            Look round a sample bench
          </Button>
        </div>
        <p className="quiet small" role="status">
          {look.isPending
            ? 'Setting up the sample trials: about ten seconds.'
            : 'The sample is made up and counts in none of your results.'}
        </p>
      </div>
      <figure className={classes.picture} aria-label="Three coded cups turn over and show how each was liked">
        {SHOWN.map(({ letter, code, from, to, at }, i) => (
          <div
            key={letter}
            className={classes.row}
            style={{ '--turn': `${i * 0.25}s` } as React.CSSProperties}
            aria-hidden
          >
            <span className={classes.coin}>
              <span className={classes.blind}>
                <Penny stamp={code} size={46} label="" />
              </span>
              <span className={classes.known}>
                <Penny stamp={letter} size={46} label="" />
              </span>
            </span>
            <span className={classes.scale}>
              <span className={classes.interval} style={{ left: `${from}%`, width: `${to - from}%` }} />
              <span className={classes.mean} style={{ left: `${at}%` }} />
            </span>
          </div>
        ))}
      </figure>
    </section>
  );
}
