import { useQuery } from '@tanstack/react-query';
import { Frontier } from '../../charts/verdict/Frontier';
import { Lines } from '../../ui/Lines';
import { Loaded } from '../../ui/Loading';
import { chance, fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { price } from '../../ui/units';
import { KitLife } from './KitLife';
import { type Judged, type ValueAnswer, valueQuery } from './queries';
import classes from './Verdict.module.css';

/** What liking costs in money and minutes, and which factor gains it. */
export function Value({ trialId, judged }: { trialId: string; judged: Judged }) {
  const value = useQuery(valueQuery(trialId));
  const averaged = value.data?.setups.some((s) => s.liking !== null);
  return (
    <Loaded query={value}>
      {(v) => (
        <>
          {v.tie && <p className={classes.tie}>{v.tie}</p>}
          {v.bought && <p className={classes.tie}>{v.bought}</p>}
          {!averaged && <p className={classes.tie}>Liking differs by group: weigh the price for each of them.</p>}
          <div className={classes.curves}>
            {averaged && <Cost value={v} measure="price" />}
            {averaged && <Cost value={v} measure="minutes" />}
            {v.factorial && <Factors factorial={v.factorial} />}
            <Prices value={v} />
            <Particles value={v} />
          </div>
          <p className="quiet small">
            Minutes are grinding, brewing and clearing away.{' '}
            {judged.verdict.kind === 'tie' || !averaged
              ? ''
              : 'Liking differences smaller than their intervals are no reason to pay more.'}
          </p>
        </>
      )}
    </Loaded>
  );
}

/** What a cup's price is made of; how long kit that lasts is counted on is said here, and can be changed. */
function Prices({ value }: { value: ValueAnswer }) {
  const priced = value.setups.filter((s) => s.price !== null || s.kit > 0);
  if (!priced.length) return null;
  return (
    <section className={`card ${classes.whole}`} aria-labelledby="prices">
      <h2 id="prices">What a cup costs</h2>
      <Lines label="What a cup costs">
        <table className={classes.table}>
          <thead>
            <tr>
              <th scope="col">setup</th>
              <th scope="col">coffee and paper</th>
              <th scope="col">kit that lasts</th>
              <th scope="col">together</th>
            </tr>
          </thead>
          <tbody>
            {priced.map((s) => (
              <tr key={s.setup}>
                <th scope="row">
                  <Penny stamp={s.setup} size={26} label={`${s.setup}, ${s.name}`} />
                </th>
                <td className="num">{price(s.used_up)}</td>
                <td className="num">{price(s.kit)}</td>
                <td className="num">{price(s.price)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Lines>
      <KitLife years={value.kit_lasts_years} cups={value.cups_a_day} />
      {value.unpriced.length > 0 && (
        <p className="small">Without a price, so not in it: {value.unpriced.join(', ')}. Enter it in Kit.</p>
      )}
    </section>
  );
}

/** The grind of each setup as it was sieved, beside what was tasted. */
function Particles({ value }: { value: ValueAnswer }) {
  if (!value.particles.length) return null;
  const [from, to] = value.band;
  const span = (x: number[] | null) => (x ? `${fixed(x[0], 1)} (${fixed(x[1], 1)} to ${fixed(x[2], 1)})` : '–');
  return (
    <section className={`card ${classes.whole}`} aria-labelledby="particles">
      <h2 id="particles">Grind and taste</h2>
      <Lines label="Grind and taste">
        <table className={classes.table}>
          <thead>
            <tr>
              <th scope="col">setup</th>
              <th scope="col">samples</th>
              <th scope="col">median, µm</th>
              {from !== undefined && (
                <>
                  <th scope="col">finer than {from} µm, %</th>
                  <th scope="col">
                    in {from} to {to} µm, %
                  </th>
                </>
              )}
              <th scope="col">clarity</th>
              <th scope="col">body</th>
            </tr>
          </thead>
          <tbody>
            {value.particles.map((p) => (
              <tr key={p.setup}>
                <th scope="row">
                  <Penny stamp={p.setup} size={26} label={`${p.setup}, ${p.name}`} />
                </th>
                <td className="num">{p.samples}</td>
                <td className="num">{fixed(p.median_um, 0)}</td>
                {from !== undefined && (
                  <>
                    <td className="num">{span(p.fines_pct)}</td>
                    <td className="num">{span(p.in_band_pct)}</td>
                  </>
                )}
                <td className="num">{fixed(p.clarity, 1)}</td>
                <td className="num">{fixed(p.body, 1)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Lines>
      <p className="quiet small">
        A sieve cannot see the shape of particles, and two grinds are few: it shows what went together here.
      </p>
    </section>
  );
}

function Cost({ value, measure }: { value: ValueAnswer; measure: 'price' | 'minutes' }) {
  const known = value.setups.filter((s) => s[measure] !== null);
  const same = measure === 'price' ? value.same_price : value.same_minutes;
  const title = measure === 'price' ? 'Liking against price' : 'Liking against minutes';
  const best = measure === 'price' ? value.best_price : value.best_minutes;
  return (
    <section className="card" aria-label={title}>
      <h2>{title}</h2>
      {known.length < 2 ? (
        <p className="quiet small">
          Give the coffee a price in Kit, per kilogram or per bag, and its setups can be weighed against one another.
        </p>
      ) : same !== null ? (
        <p>
          All cost the same: {measure === 'price' ? price(same) : fixed(same, 1)}
          {measure === 'price' ? ' a cup.' : ' minutes a cup.'} Choose by liking.
        </p>
      ) : (
        <>
          <Frontier
            rows={known.map((s) => ({
              setup: s.setup,
              name: s.name,
              liking: s.liking!,
              cost: s[measure]!,
              onFrontier: measure === 'price' ? s.on_price_frontier : s.on_time_frontier,
            }))}
            unit={measure === 'price' ? 'price a cup' : 'minutes a cup'}
            places={measure === 'price' ? 2 : 1}
          />
          <p className="small">{best}</p>
        </>
      )}
    </section>
  );
}

export function Factors({ factorial }: { factorial: NonNullable<ValueAnswer['factorial']> }) {
  return (
    <section className={`card ${classes.whole}`} aria-labelledby="factors">
      <h2 id="factors">Which matters more?</h2>
      <Lines className={classes.scroll} label="Value of each factor">
        <table className={classes.table}>
          <thead>
            <tr>
              <th scope="col">factor</th>
              <th scope="col">liked more</th>
              <th scope="col">by, {factorial.unit}</th>
              <th scope="col">95 % interval</th>
              <th scope="col">largest factor</th>
            </tr>
          </thead>
          <tbody>
            {factorial.factors.map((f) => (
              <tr key={f.factor}>
                <th scope="row">{f.label}</th>
                <td>
                  {f.best} over {f.worst}
                </td>
                <td className="num">{fixed(f.span, 1)}</td>
                <td className="num">
                  {fixed(f.span_interval[0], 1)} to {fixed(f.span_interval[1], 1)}
                </td>
                <td className="num">{chance(f.probability_largest)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Lines>
      {factorial.interactions.map((i) => (
        <p key={i.factors.join()} className="small">
          {i.text} ({fixed(i.interval[0], 1)} to {fixed(i.interval[1], 1)}).
        </p>
      ))}
      {factorial.gains.map((g) => (
        <p key={g.factor} className="small">
          {g.text}
        </p>
      ))}
    </section>
  );
}

/** Price and minutes of a cup, where only an order is known: who is beaten by nobody. */
export function CostsCard({ trialId }: { trialId: string }) {
  const { data } = useQuery(valueQuery(trialId));
  const known = data?.setups.filter((s) => s.price !== null || s.minutes !== null) ?? [];
  if (known.length < 2) return null;
  return (
    <section className="card" aria-labelledby="costs">
      <h2 id="costs">What a cup costs</h2>
      <Lines label="What a cup costs">
        <table className={classes.table}>
          <thead>
            <tr>
              <th scope="col">setup</th>
              <th scope="col">price a cup</th>
              <th scope="col">minutes a cup</th>
              <th scope="col">best value</th>
            </tr>
          </thead>
          <tbody>
            {known.map((s) => (
              <tr key={s.setup}>
                <th scope="row">
                  <Penny stamp={s.setup} size={26} label={`${s.setup}, ${s.name}`} />
                </th>
                <td className="num">{price(s.price)}</td>
                <td className="num">{s.minutes === null ? '–' : fixed(s.minutes, 1)}</td>
                <td>
                  {[s.on_price_frontier && 'by price', s.on_time_frontier && 'by time'].filter(Boolean).join(', ') ||
                    '–'}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Lines>
    </section>
  );
}
