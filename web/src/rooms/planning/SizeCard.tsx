import { useQuery } from '@tanstack/react-query';
import { SeenLead } from '../../charts/power/SeenLead';
import { fixed } from '../../ui/numbers';
import { Term } from '../../ui/Term';
import classes from './Plan.module.css';
import { type Plan, powerQuery, scatterQuery } from './queries';
import { Stepper } from './Stepper';
import { useSettings } from './useSettings';

/** How many brews, flights and tasters, in one sentence with what they can detect. */
export function SizeCard({ trialId, plan }: { trialId: string; plan: Plan }) {
  const { set, isPending } = useSettings(trialId, plan);
  const s = plan.settings;
  const setups = plan.setups.length;
  const { data: scatter } = useQuery(scatterQuery);
  const { replicates, flights, tasters } = s;
  const asked = { setups, tasters, replicates, flights, lead: plan.smallest_difference };
  const { data: power } = useQuery({ ...powerQuery(asked, scatter), enabled: setups > 1 && scatter !== undefined });
  const lead = power?.here.lead_80 ?? null;
  return (
    <section className={`card ${classes.size}`} aria-label="How much of it" aria-busy={isPending}>
      <div className={classes.asSentence}>
        <Stepper
          label="Brews of each"
          said="brews of each,"
          value={replicates}
          low={1}
          high={12}
          onChange={(n) => set({ replicates: n })}
        />
        <Stepper
          label="Tasters"
          said="tasters,"
          value={tasters}
          low={1}
          high={50}
          onChange={(n) => set({ tasters: n })}
        />
        <Stepper
          label="Flights"
          said={flights === 1 ? 'flight:' : 'flights:'}
          value={flights}
          low={1}
          high={12}
          onChange={(n) => set({ flights: n })}
        />
        <p className={classes.seen} aria-live="polite">
          {setups < 2 ? (
            'with two setups it can be said what this panel sees.'
          ) : power && lead === null ? (
            <>too few to spot any winner reliably.</>
          ) : (
            <>
              <Term of="power">sees a lead</Term> of <b className="num">{lead === null ? '…' : fixed(lead, 1)}</b>{' '}
              points.
            </>
          )}
        </p>
      </div>
      {setups > 1 && <SeenLead lead={lead} letters={['A', 'B']} matters={plan.smallest_difference} />}
      <details className={classes.moreSize}>
        <summary>Share swallowed, dial-in brews, sieve samples</summary>
        <div className={classes.steppers}>
          <Stepper
            label="Share swallowed"
            value={Math.round(100 * s.share_drunk)}
            unit="%"
            step={10}
            low={0}
            high={100}
            onChange={(percent) => set({ share_drunk: percent / 100 })}
          />
          <Stepper
            label="Dial-in brews of each"
            value={s.dial_in_brews}
            low={0}
            high={12}
            onChange={(dial_in_brews) => set({ dial_in_brews })}
          />
          <Stepper
            label="Sieve samples of each"
            value={s.sieve_samples}
            low={0}
            high={12}
            onChange={(sieve_samples) => set({ sieve_samples })}
          />
          {s.sieve_samples > 0 && (
            <Stepper
              label="Grams a sieve sample"
              value={s.sieve_sample_g}
              unit="g"
              step={5}
              low={5}
              high={500}
              onChange={(sieve_sample_g) => set({ sieve_sample_g })}
            />
          )}
        </div>
      </details>
      {replicates * flights < 2 && (
        <p className={classes.warned}>One brew of each cannot tell the setup from the pour.</p>
      )}
    </section>
  );
}
