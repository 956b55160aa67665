import { useQueries, useQuery } from '@tanstack/react-query';
import { AsItCools } from '../../charts/verdict/AsItCools';
import { Lines } from '../../ui/Lines';
import { Loaded } from '../../ui/Loading';
import { fixed } from '../../ui/numbers';
import { hueOf, Penny } from '../../ui/Penny';
import { cooling } from './cooling';
import { type AttributeJudged, attributeQuery, charactersQuery, type VerdictAnswer } from './queries';
import classes from './Verdict.module.css';

/** Which for whom: what each setup is chosen for, even in a tie. */
export function ForWhom({ trialId, answer }: { trialId: string; answer: VerdictAnswer }) {
  const characters = useQuery(charactersQuery(trialId));
  const attributes = useQueries({ queries: answer.attributes.map((a) => attributeQuery(trialId, a)) });
  return (
    <div className={classes.grid}>
      <div className={classes.column}>
        <Loaded query={characters}>
          {(all) => (
            <section className="card" aria-labelledby="for-whom">
              <h2 id="for-whom">Choose by what you want</h2>
              {all.every((c) => !c.text) && <p>No setup stands out.</p>}
              <ul className={classes.choices}>
                {all.map((c) => (
                  <li key={c.setup}>
                    <Penny stamp={c.setup} size={40} />
                    <div>
                      <p>
                        <b>{c.text || c.name}</b>
                      </p>
                      <p className="quiet small">{c.as_it_cools}</p>
                      <Words answer={answer} setup={c.setup} />
                    </div>
                  </li>
                ))}
              </ul>
            </section>
          )}
        </Loaded>
        {answer.just_right.length > 0 && <JustRight answer={answer} />}
      </div>
      <section className="card" aria-labelledby="attributes">
        <h2 id="attributes">Attribute by attribute</h2>
        <p className="quiet small">Panel means with 95 % intervals, of the pass the trial is judged by.</p>
        {attributes.map((q, i) =>
          q.data ? (
            <Attribute key={q.data.attribute} judged={q.data} />
          ) : (
            <p key={answer.attributes[i]} className="quiet small" role="status">
              {answer.attributes[i]} is being worked out…
            </p>
          ),
        )}
      </section>
    </div>
  );
}

export function Words({ answer, setup }: { answer: VerdictAnswer; setup: string }) {
  const groups = answer.words.filter((w) => w.setup === setup);
  if (!groups.length) return null;
  return (
    <p className={classes.words}>
      {groups.map((g) => (
        <span key={g.pass_name}>
          {groups.length > 1 && g.pass_name && <i>{g.pass_name}: </i>}
          {g.words.map((w) => `${w.word}${w.count > 1 ? ` ×${w.count}` : ''}`).join(', ')}{' '}
        </span>
      ))}
    </p>
  );
}

/** One attribute: every setup's mean on its scale, one line a setup. */
function Attribute({ judged }: { judged: AttributeJudged }) {
  const whole = judged.passes.find((p) => p.pass_name === judged.counts) ?? judged.passes[0];
  if (!whole) return null;
  const passes = cooling(judged);
  const at = (v: number) => `${(100 * (v - judged.low)) / (judged.high - judged.low)}%`;
  return (
    <div className={classes.attribute}>
      <h3>{judged.label}</h3>
      <div className={classes.bars} role="table" aria-label={`${judged.label} by setup`}>
        {whole.setups.map((s) => (
          <div key={s.setup} role="row">
            <span role="rowheader">
              <Penny stamp={s.setup} size={24} />
            </span>
            <span
              className={classes.bar}
              role="cell"
              aria-label={`${fixed(s.mean, 1)}${s.interval ? `, ${fixed(s.interval[0], 1)} to ${fixed(s.interval[1], 1)}` : ''}`}
            >
              {s.interval && (
                <span
                  className={classes.reach}
                  style={{
                    left: at(s.interval[0]!),
                    right: `calc(100% - ${at(s.interval[1]!)})`,
                    background: hueOf(s.setup),
                  }}
                />
              )}
              <span className={classes.dot} style={{ left: at(s.mean), background: hueOf(s.setup) }} />
            </span>
            <span className="num" role="cell">
              {fixed(s.mean, 1)}
            </span>
          </div>
        ))}
      </div>
      <p className={classes.ends}>
        <span>{judged.low_word}</span>
        <span>{judged.high_word}</span>
      </p>
      {whole.agreement !== null && (
        <p className="quiet small">
          Tasters ranked these cups alike: <span className="num">{fixed(whole.agreement, 2)}</span> of 1, p{' '}
          <span className="num">{whole.agreement_p! < 0.001 ? '<0.001' : fixed(whole.agreement_p, 3)}</span>.
        </p>
      )}
      {passes && <AsItCools {...passes} label={`Mean ${judged.label.toLowerCase()} by pass`} />}
      {judged.changes && <p className="small">{judged.changes}</p>}
    </div>
  );
}

function JustRight({ answer }: { answer: VerdictAnswer }) {
  return (
    <section className="card" aria-labelledby="jar">
      <h2 id="jar">Just about right?</h2>
      <Lines label="What each choice costs each group">
        <table className={classes.table}>
          <thead>
            <tr>
              <th scope="col">setup</th>
              <th scope="col">attribute</th>
              <th scope="col">too little</th>
              <th scope="col">right</th>
              <th scope="col">too much</th>
              <th scope="col">costs</th>
            </tr>
          </thead>
          <tbody>
            {answer.just_right.map((j) => (
              <tr key={j.setup + j.attribute}>
                <th scope="row">
                  <Penny stamp={j.setup} size={24} />
                </th>
                <td>{j.attribute}</td>
                <td className="num">{j.too_little}</td>
                <td className="num">{j.right}</td>
                <td className="num">{j.too_much}</td>
                <td className="num">
                  {[
                    j.drop_little !== null ? `${fixed(j.drop_little, 1)} when too little` : '',
                    j.drop_much !== null ? `${fixed(j.drop_much, 1)} when too much` : '',
                  ]
                    .filter(Boolean)
                    .join(', ') || '–'}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Lines>
      <p className="quiet small">
        Costs: points of liking lost against those who find it right, from three of each on.
      </p>
    </section>
  );
}
