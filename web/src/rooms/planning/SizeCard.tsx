import classes from './Plan.module.css';
import type { Plan } from './queries';
import { Stepper } from './Stepper';
import { useSettings } from './useSettings';

/** How many brews, flights and tasters. */
export function SizeCard({ trialId, plan }: { trialId: string; plan: Plan }) {
  const { set, isPending } = useSettings(trialId, plan);
  const s = plan.settings;
  return (
    <section className="card" aria-label="How much of it" aria-busy={isPending}>
      <div className={classes.steppers}>
        <Stepper
          label="Brews of each"
          value={s.replicates}
          low={1}
          high={12}
          onChange={(replicates) => set({ replicates })}
        />
        <Stepper label="Tasters" value={s.tasters} low={1} high={50} onChange={(tasters) => set({ tasters })} />
        <Stepper label="Flights" value={s.flights} low={1} high={12} onChange={(flights) => set({ flights })} />
      </div>
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
      {s.replicates * s.flights < 2 && (
        <p className={classes.warned}>One brew of each cannot tell the setup from the pour.</p>
      )}
    </section>
  );
}
