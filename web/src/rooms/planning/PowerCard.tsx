import { Progress } from '@mantine/core';
import { useQueries, useQuery, useQueryClient } from '@tanstack/react-query';
import { PowerCurves } from '../../charts/power/PowerCurves';
import { fixed, plural, workTime } from '../../ui/numbers';
import classes from './Plan.module.css';
import { type Plan, type Power, powerCurveQuery, powerQuery, type Scatter, scatterQuery } from './queries';

const CURVES = [1, 2, 3, 4, 6];
const MOST_TASTERS = 12;

/** What this panel can and cannot see, and the cheapest way to see more. */
export function PowerCard({ plan, setups }: { plan: Plan; setups: number }) {
  const { replicates, flights, tasters } = plan.settings;
  const { data: scatter } = useQuery(scatterQuery);
  const lead = plan.smallest_difference;
  const power = useQuery(powerQuery({ setups, tasters, replicates, flights, lead }, scatter));
  const brews = [...new Set([...CURVES, replicates * flights])].sort((a, b) => a - b);
  const curves = useCurves(brews, flights, setups, scatter, power.data !== undefined && !power.isFetching);
  const done = curves.filter((c) => c !== undefined).length;
  if (setups < 2) return <p className="card">With two setups it can be said what this panel will see.</p>;
  return (
    <section className="card" aria-labelledby="power" aria-busy={power.isFetching}>
      <h2 id="power">What this panel can detect</h2>
      {power.data ? <Said power={power.data} /> : <p className="quiet">Simulating panels like yours…</p>}
      {done > 0 && (
        <PowerCurves
          curves={brews.flatMap((b, i) => {
            const found = curves[i];
            return found ? [{ brews: b, points: found.points }] : [];
          })}
          here={{ tasters, brews: replicates * flights }}
          mostTasters={MOST_TASTERS}
          lead={lead}
          height={216}
        />
      )}
      {done < brews.length && (
        <Progress
          value={(100 * done) / brews.length}
          size="xs"
          aria-label={`${done} of ${brews.length} curves drawn`}
        />
      )}
      {scatter && (
        <p className="quiet small">
          Scatter in points of 9: tasters’ own leanings {fixed(scatter.taster_setup)}, brew to brew{' '}
          {fixed(scatter.brew)}, single scores {fixed(scatter.noise)}; from {scatter.source}.
        </p>
      )}
    </section>
  );
}

const AT_ONCE = 2;

/** Two curves at a time, once the plan itself is answered: each keeps a processor of the bench busy for half a second. */
function useCurves(brews: number[], flights: number, setups: number, scatter: Scatter | undefined, begin: boolean) {
  const client = useQueryClient();
  const options = brews.map((b) =>
    powerCurveQuery({ setups, brews: b, flights: Math.min(flights, b), most_tasters: MOST_TASTERS }, scatter),
  );
  const next = options.findIndex((o) => client.getQueryData(o.queryKey) === undefined);
  const curves = useQueries({
    queries: options.map((o, i) => ({ ...o, enabled: o.enabled !== false && begin && i < next + AT_ONCE })),
  });
  return curves.map((c) => c.data);
}

function Said({ power }: { power: Power }) {
  return (
    <>
      <p className={classes.sentence}>{power.sentence}</p>
      <p>{power.chance_sentence}</p>
      {(power.cheapest || power.halving) && (
        <ul className={classes.ways}>
          {power.cheapest && power.cheapest.lead_80 !== null && (
            <li>
              Cheapest improvement: <b>{power.cheapest.text}</b>,{' '}
              {power.cheapest.extra_brews > 0 && `${plural(power.cheapest.extra_brews, 'more brew')}, `}
              about {workTime(power.cheapest.minutes)}. It brings {fixed(power.here.lead_80, 1)} down to{' '}
              <b className="num">{fixed(power.cheapest.lead_80, 1)}</b>.
            </li>
          )}
          {power.halving && (
            <li>
              To halve the uncertainty:{' '}
              <b>
                {plural(power.halving.brews, 'brew')} of each, {plural(power.halving.tasters, 'taster')}
              </b>{' '}
              see leads of <b className="num">{fixed(power.halving.lead_80, 1)}</b>.
            </li>
          )}
        </ul>
      )}
    </>
  );
}
