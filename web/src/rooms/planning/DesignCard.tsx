import { Button } from '@mantine/core';
import { useState } from 'react';
import { FACTORS } from '../../api/words';
import type { SetUp, Trial } from '../trials/queries';
import { DesignForm } from './DesignForm';
import classes from './Plan.module.css';
import type { Plan } from './queries';

/** How the setups were made from levels, and what that design can tell. */
export function DesignCard({
  trialId,
  plan,
  trial,
  setUp,
}: {
  trialId: string;
  plan: Plan;
  trial: Trial;
  setUp: SetUp;
}) {
  const [open, setOpen] = useState(false);
  const d = plan.design;
  return (
    <section className="card" aria-labelledby="design">
      <div className={classes.cardHead}>
        <h2 id="design">{d ? `Design: ${d.label}` : 'Design'}</h2>
        <Button size="compact-sm" variant={d ? 'default' : 'filled'} onClick={() => setOpen(true)}>
          {d ? 'Lay out another' : 'Lay out a design'}
        </Button>
      </div>
      {d ? (
        <>
          <dl className={classes.levels}>
            {d.factors.map((f) => (
              <div key={f.factor}>
                <dt>{FACTORS[f.factor]}</dt>
                <dd>{f.levels.join(' · ')}</dd>
              </div>
            ))}
          </dl>
          {d.notes.map((note) => (
            <p key={note} className="small quiet">
              {note}
            </p>
          ))}
        </>
      ) : (
        <p className="quiet">
          Setups are described one by one so far. A design makes them from levels: a ladder, every combination, a
          screening fraction, a surface.
        </p>
      )}
      {open && <DesignForm trialId={trialId} plan={plan} trial={trial} setUp={setUp} onClose={() => setOpen(false)} />}
    </section>
  );
}
