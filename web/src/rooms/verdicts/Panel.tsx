import { Lines } from '../../ui/Lines';
import { fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { ByTaster } from './ByTaster';
import type { Judged, VerdictAnswer } from './queries';
import classes from './Verdict.module.css';

/** The panel itself: who likes what, whether there are two kinds of drinkers, how steady each taster is. Nobody is dropped by it. */
export function Panel({ judged, answer }: { judged: Judged; answer: VerdictAnswer }) {
  return (
    <div className={classes.grid}>
      <div className={classes.column}>
        <section className="card" aria-labelledby="by-taster">
          <h2 id="by-taster">By taster</h2>
          <ByTaster judged={judged} />
        </section>
        {answer.segments && (
          <section className="card" aria-labelledby="kinds">
            <h2 id="kinds">Kinds of drinkers</h2>
            <p>{answer.segments.text}</p>
            {answer.segments.segments.map((g) => (
              <p key={g.best} className={classes.segment}>
                <Penny stamp={g.best} size={28} />
                <span>{g.tasters.join(', ')}</span>
              </p>
            ))}
          </section>
        )}
        {answer.guessed && (
          <section className="card" aria-labelledby="guessed">
            <h2 id="guessed">Guesses</h2>
            <p>{answer.guessed.text}</p>
          </section>
        )}
      </div>
      <div className={classes.column}>
        <section className="card" aria-labelledby="agree">
          <h2 id="agree">Agreement</h2>
          <p>{answer.ranked ? answer.ranked.text : 'Agreement needs two setups and two tasters who scored both.'}</p>
        </section>
        <section className="card" aria-labelledby="steady">
          <h2 id="steady">The same brew twice</h2>
          {answer.repeats.length ? (
            <Lines label="Tasters">
              <table className={classes.table}>
                <thead>
                  <tr>
                    <th scope="col">taster</th>
                    <th scope="col">duplicates</th>
                    <th scope="col">apart, points</th>
                    <th scope="col">95 % interval</th>
                  </tr>
                </thead>
                <tbody>
                  {answer.repeats.map((r) => (
                    <tr key={r.taster}>
                      <th scope="row">
                        {r.taster}
                        {r.flagged && ' · noisier than the others'}
                      </th>
                      <td className="num">{r.duplicates}</td>
                      <td className="num">{fixed(r.repeat_sd, 1)}</td>
                      <td className="num">
                        {r.interval && r.duplicates > 1
                          ? `${fixed(r.interval[0], 1)} to ${fixed(r.interval[1], 1)}`
                          : 'too few'}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </Lines>
          ) : (
            <p className="quiet">No brew was hidden twice, so tasters were not measured.</p>
          )}
          <p className="quiet small">For information only; all scores count.</p>
        </section>
        {answer.positions.length > 0 && (
          <section className="card" aria-labelledby="places">
            <h2 id="places">Does the place in the order matter?</h2>
            <Lines label="Places in the order">
              <table className={classes.table}>
                <thead>
                  <tr>
                    <th scope="col">place</th>
                    <th scope="col">moves liking by</th>
                    <th scope="col">scores</th>
                  </tr>
                </thead>
                <tbody>
                  {answer.positions.map((p) => (
                    <tr key={p.position}>
                      <th scope="row" className="num">
                        {p.position}
                      </th>
                      <td className="num">
                        {p.effect >= 0 ? '+' : ''}
                        {fixed(p.effect, 1)} ± {fixed(p.half_width, 1)}
                      </td>
                      <td className="num">{p.n}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </Lines>
          </section>
        )}
      </div>
    </div>
  );
}
