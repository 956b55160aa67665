import { Lines } from '../../ui/Lines';
import { fixed, percent } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import type { VerdictAnswer } from './queries';
import classes from './Verdict.module.css';

const points = (value: number | null | undefined, places = 2) =>
  value === null || value === undefined ? '∞' : fixed(value, places);

/** Whether anybody tells them apart, whom the panel prefers, and how it ranked them: as far as it was asked. */
export function ToldApart({ answer }: { answer: VerdictAnswer }) {
  const saidAbove = (text: string) => answer.answer!.certainty.includes(text);
  return (
    <>
      {answer.told_apart.map((t) => (
        <section key={`${t.method}${t.sighted}`} className="card" aria-label={t.method_label}>
          <h2>
            {t.method_label}: {t.correct} of {t.n} right
            {t.sighted && ', labels in sight'}
          </h2>
          {!saidAbove(t.text) && <p>{t.text}</p>}
          <dl className={classes.facts}>
            <div>
              <dt>p of luck</dt>
              <dd className="num">{t.p_value < 0.001 ? '<0.001' : fixed(t.p_value, 3)}</dd>
            </div>
            <div>
              <dt>can tell</dt>
              <dd className="num">
                {percent(t.distinguishers)} ({percent(t.distinguishers_interval[0])} to{' '}
                {percent(t.distinguishers_interval[1])})
              </dd>
            </div>
            <div>
              <dt>d′</dt>
              <dd className="num">
                {points(t.d_prime)} ({points(t.d_prime_interval[0])} to {points(t.d_prime_interval[1])})
              </dd>
            </div>
          </dl>
          <p className="quiet small">{t.claim}</p>
        </section>
      ))}
      {answer.preferred && (
        <section className="card" aria-labelledby="preferred">
          <h2 id="preferred">Preferred in pairs</h2>
          <Lines label="Told apart">
            <table className={classes.table}>
              <thead>
                <tr>
                  <th scope="col">pair</th>
                  <th scope="col">chosen</th>
                  <th scope="col">would be preferred</th>
                  <th scope="col">p</th>
                </tr>
              </thead>
              <tbody>
                {answer.preferred.pairs.map((p) => (
                  <tr key={p.a + p.b}>
                    <th scope="row">
                      <span className={classes.pair}>
                        <Penny stamp={p.a} size={24} /> over <Penny stamp={p.b} size={24} />
                      </span>
                    </th>
                    <td className="num">
                      {p.a_wins} to {p.b_wins}
                    </td>
                    <td className="num">
                      {percent(p.preferred)} ({percent(p.interval[0])} to {percent(p.interval[1])})
                    </td>
                    <td className="num">{p.p_value === null ? '–' : fixed(p.p_value, 3)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </Lines>
        </section>
      )}
      {answer.ranked && !answer.ranked.from_scores && (
        <section className="card" aria-labelledby="ranked">
          <h2 id="ranked">Ranked</h2>
          <ol className={classes.ranked}>
            {answer.ranked.setups.map((s, i) => (
              <li key={s}>
                <Penny stamp={s} size={30} />
                <span>{answer.names[s]}</span>
                <span className="num">{fixed(answer.ranked!.mean_ranks[i], 1)}</span>
              </li>
            ))}
          </ol>
          <p className="quiet small">Mean place, 1 of {answer.ranked.setups.length} being first.</p>
          {!saidAbove(answer.ranked.text) && <p className="small">{answer.ranked.text}</p>}
        </section>
      )}
    </>
  );
}
