import { Button, Select } from '@mantine/core';
import { Fragment } from 'react';
import { FACTORS } from '../../api/words';
import { Penny } from '../../ui/Penny';
import type { Factor } from '../trials/queries';
import classes from './Plan.module.css';
import type { Plan, PlanSettings } from './queries';
import { useSettings } from './useSettings';

/** The order of brewing: drawn from a seed, so that it can be shown to have been drawn. */
export function OrderCard({ trialId, plan }: { trialId: string; plan: Plan }) {
  const { set, isPending } = useSettings(trialId, plan);
  const s = plan.settings;
  const choices = [
    { value: 'replicate', label: 'in rounds: each holds every setup once' },
    { value: 'none', label: 'wholly at random' },
    ...plan.block_factors.map((f) => ({
      value: `factor ${f}`,
      label: `one ${(FACTORS[f as Factor] ?? f).toLowerCase()} after the other`,
    })),
  ];
  const choose = (value: string | null) => {
    const [blocking, block_factor = ''] = (value ?? 'replicate').split(' ');
    set({ blocking: blocking as PlanSettings['blocking'], block_factor });
  };
  return (
    <section className="card" aria-labelledby="order">
      <div className={classes.cardHead}>
        <h2 id="order">Order of brewing, one flight</h2>
        <Button size="compact-sm" variant="default" loading={isPending} onClick={() => set({ seed: null })}>
          Reshuffle
        </Button>
      </div>
      <Select
        aria-label="How the order is drawn"
        size="xs"
        allowDeselect={false}
        data={choices}
        value={s.blocking === 'factor' ? `factor ${s.block_factor}` : s.blocking}
        onChange={choose}
      />
      <ol className={classes.order}>
        {plan.order.map((b, i) => (
          <Fragment key={b.label}>
            {i > 0 && plan.order[i - 1]!.block !== b.block && <li className={classes.blockEdge} aria-hidden />}
            <li>
              <Penny stamp={b.letter} size={32} label={`Brew ${b.label}`} />
              <span className="num">{b.label}</span>
            </li>
          </Fragment>
        ))}
      </ol>
      <p className="small">
        {plan.order_cost} <span className="quiet">Seed {s.seed}.</span>
      </p>
    </section>
  );
}
