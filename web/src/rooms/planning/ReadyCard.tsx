import { Button } from '@mantine/core';
import { Link } from 'react-router';
import { Penny } from '../../ui/Penny';
import classes from './Plan.module.css';
import type { Plan } from './queries';

const WORDS = {
  dialled_in: 'dialled in',
  off: 'off its windows',
  none: 'not dialled in',
  no_windows: 'no windows to judge by',
} as const;

/** Each setup deserves its own dial-in before a final comparison; and whether the declared matches hold. */
export function ReadyCard({ trialId, plan }: { trialId: string; plan: Plan }) {
  const waiting = plan.setups.filter((s) => s.dial_in !== 'dialled_in');
  return (
    <section className="card" aria-labelledby="ready">
      <div className={classes.cardHead}>
        <h2 id="ready">Dialled in</h2>
        {waiting.length > 0 && (
          <Button size="compact-sm" variant="default" component={Link} to={`/trials/${trialId}/brew`}>
            Log a dial-in brew
          </Button>
        )}
      </div>
      <ul className={classes.ready}>
        {plan.setups.map((s) => (
          <li key={s.setup_id} data-state={s.dial_in}>
            <Penny stamp={s.letter} size={28} />
            <span>
              <b>{WORDS[s.dial_in]}</b> <span className="quiet small">{s.text}</span>
            </span>
          </li>
        ))}
      </ul>
      {plan.rules.map((r) => (
        <p key={r.field} className={r.holds === false ? classes.warned : 'small'}>
          <b>
            {r.label}, {r.rule_label}:
          </b>{' '}
          {r.text}
        </p>
      ))}
    </section>
  );
}
