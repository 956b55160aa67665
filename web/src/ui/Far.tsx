import { Progress } from '@mantine/core';
import classes from './Far.module.css';
import type { HowFar } from './howFar';

/** How far something is that takes a while: null before the bench has said so. */
export function Far({
  far,
  label,
  before,
  told,
}: {
  far: HowFar | null;
  label: string;
  before: string;
  told: (far: HowFar) => string;
}) {
  return (
    <div className={classes.far}>
      <Progress
        className={classes.track}
        value={far ? (100 * far.done) / far.of : 100}
        striped={!far}
        animated={!far}
        aria-label={label}
      />
      <span className="quiet small num">{far ? told(far) : before}</span>
    </div>
  );
}
