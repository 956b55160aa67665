import { useQuery } from '@tanstack/react-query';
import { LikingIntervals } from '../../charts/liking/LikingIntervals';
import { AsItCools } from '../../charts/verdict/AsItCools';
import { fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { Next } from './Next';
import { attributeQuery, type Judged, type VerdictAnswer, valueQuery } from './queries';
import { DifferencesTable, MeasuredTable } from './Tables';
import { ToldApart } from './ToldApart';
import classes from './Verdict.module.css';

/** The answer: who is liked best and how surely, how it cools, what was measured, and what would settle the rest. */
export function Answer({ trialId, judged, answer }: { trialId: string; judged: Judged; answer: VerdictAnswer }) {
  return (
    <div className={classes.grid}>
      <div className={classes.column}>
        {answer.answer && answer.answer.groups.length > 1 && <Camps answer={answer} />}
        {answer.answer?.kind === 'setup' && judged.verdict.kind === 'tie' && <TieBreaker trialId={trialId} />}
        <section className="card" aria-labelledby="liking">
          <div className={classes.cardHead}>
            <h2 id="liking">{answer.blind ? 'Blind' : 'Sighted'} liking, 1 to 9</h2>
            <span className="quiet small">95 % intervals</span>
          </div>
          <LikingIntervals setups={judged.setups} />
        </section>
        <Next trialId={trialId} />
        {answer.blind && answer.sighted && <SideBySide blind={answer.blind} sighted={answer.sighted} />}
      </div>
      <div className={classes.column}>
        <Cooling trialId={trialId} />
        <section className="card" aria-labelledby="measured">
          <h2 id="measured">What was measured</h2>
          <MeasuredTable setups={judged.setups} />
        </section>
        <section className="card" aria-labelledby="differences">
          <h2 id="differences">Differences</h2>
          <DifferencesTable judged={judged} />
        </section>
        <ToldApart answer={answer} />
      </div>
    </div>
  );
}

/** Two kinds of drinkers: what each likes, and what it gives up under each choice; the average hides both. */
function Camps({ answer }: { answer: VerdictAnswer }) {
  const groups = answer.answer!.groups;
  const letters = Object.keys(groups[0]!.means).sort();
  return (
    <section className="card" aria-labelledby="camps">
      <h2 id="camps">Liking by group</h2>
      <table className={classes.camps}>
        <thead>
          <tr>
            <th scope="col">group</th>
            {letters.map((l) => (
              <th key={l} scope="col">
                <Penny stamp={l} size={26} />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {groups.map((g) => (
            <tr key={g.tasters.join()}>
              <th scope="row">{g.tasters.join(', ')}</th>
              {letters.map((l) => (
                <td key={l} className="num" data-best={g.best === l || undefined}>
                  {fixed(g.means[l], 1)}
                  {g.best !== l && <span className="quiet small"> loses {fixed(g.loses[l], 1)}</span>}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="quiet small">The average of all hides both groups, so it stands below.</p>
    </section>
  );
}

/** In a tie: take the cheaper or the faster, in words. */
function TieBreaker({ trialId }: { trialId: string }) {
  const { data } = useQuery(valueQuery(trialId));
  return data?.tie ? (
    <section className="card" aria-label="What to take in a tie">
      <h2>{data.tie}</h2>
    </section>
  ) : null;
}

/** Shown once there is more than one pass. */
function Cooling({ trialId }: { trialId: string }) {
  const { data } = useQuery(attributeQuery(trialId, 'liking'));
  const passes = data?.passes.filter((p) => p.pass_name !== 'mean') ?? [];
  if (!data || passes.length < 2) return null;
  const setups = passes[0]!.setups.map((s) => s.setup).sort();
  const rows = setups.map((setup) => ({
    setup,
    by_pass: Object.fromEntries(
      passes.flatMap((p) =>
        p.setups.filter((s) => s.setup === setup).map((s) => [p.pass_name, s.mean] as [string, number]),
      ),
    ),
  }));
  return (
    <section className="card" aria-labelledby="cools">
      <h2 id="cools">As it cools</h2>
      <AsItCools rows={rows} passes={passes.map((p) => p.pass_name)} />
      <p className="small">{data.changes || 'The same setup leads in every pass.'}</p>
    </section>
  );
}

function SideBySide({ blind, sighted }: { blind: Judged; sighted: Judged }) {
  const order = (j: Judged) =>
    j.setups.map((s) => (
      <li key={s.setup}>
        <Penny stamp={s.setup} size={28} />
        <span className="num">{s.mean?.toFixed(1)}</span>
      </li>
    ));
  return (
    <section className={`card ${classes.sides}`} aria-labelledby="sides">
      <h2 id="sides">Labels in sight, and not</h2>
      <p className="quiet small">Kept apart, never pooled.</p>
      <dl>
        <dt>in sight</dt>
        <dd>
          <ol>{order(sighted)}</ol>
        </dd>
        <dt>blind</dt>
        <dd>
          <ol>{order(blind)}</ol>
        </dd>
      </dl>
    </section>
  );
}
