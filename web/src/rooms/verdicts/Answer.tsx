import { useQuery } from '@tanstack/react-query';
import { ChartCard } from '../../charts/ChartCard';
import { LikingIntervals } from '../../charts/liking/LikingIntervals';
import { AsItCools } from '../../charts/verdict/AsItCools';
import { CampsChart } from '../../charts/verdict/CampsChart';
import { Loaded } from '../../ui/Loading';
import { fixed, plural } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { Term } from '../../ui/Term';
import { resultsQuery } from '../measuring/queries';
import { CurveCard } from './Against';
import { cooling } from './cooling';
import { Words } from './ForWhom';
import { Next } from './Next';
import {
  attributeQuery,
  charactersQuery,
  type Judged,
  pairingQuery,
  trendsQuery,
  type VerdictAnswer,
  valueQuery,
} from './queries';
import { DifferencesCard, MeasuredTable } from './Tables';
import { ToldApart } from './ToldApart';
import { Factors } from './Value';
import classes from './Verdict.module.css';

/** The answer: what the question was about first, then how it cools, what was measured, and what would settle the rest. */
export function Answer({ trialId, judged, answer }: { trialId: string; judged: Judged; answer: VerdictAnswer }) {
  const { kind, order } = answer.answer!;
  const setups = order.length ? inOrder(judged.setups, order) : judged.setups;
  const measured = (
    <section className="card" aria-labelledby="measured">
      <h2 id="measured">What was measured</h2>
      <MeasuredTable setups={setups} />
    </section>
  );
  return (
    <div className={classes.grid}>
      <div className={classes.column}>
        {kind === 'camps' && <Camps answer={answer} />}
        {kind === 'ladder' && <Climb trialId={trialId} />}
        {kind === 'factors' && <FactorsCard trialId={trialId} />}
        {kind === 'setup' && judged.verdict.kind === 'tie' && <TieBreaker trialId={trialId} />}
        {kind !== 'camps' && (
          <section className="card" aria-labelledby="liking">
            <div className={classes.cardHead}>
              <h2 id="liking">{`${answer.blind ? 'Blind' : 'Sighted'} liking, 1 to 9`}</h2>
              <span className="quiet small">
                <Term of="interval">95 % intervals</Term>
              </span>
            </div>
            <LikingIntervals setups={setups} />
          </section>
        )}
        {kind === 'ladder' ? measured : <Next trialId={trialId} />}
        {answer.blind && answer.sighted && <SideBySide blind={answer.blind} sighted={answer.sighted} />}
      </div>
      <div className={classes.column}>
        {kind === 'camps' && <CampsOnChart judged={judged} answer={answer} />}
        {kind === 'ladder' && (
          <>
            <Trends trialId={trialId} />
            <Next trialId={trialId} />
          </>
        )}
        <TastesOf trialId={trialId} answer={answer} order={setups.map((s) => s.setup)} />
        {kind !== 'camps' && <Cooling trialId={trialId} />}
        {kind !== 'ladder' && measured}
        <DifferencesCard judged={judged} folded={kind === 'ladder'} />
        <ToldApart answer={answer} />
      </div>
    </div>
  );
}

const inOrder = (setups: Judged['setups'], order: string[]) =>
  [...setups].sort((a, b) => order.indexOf(a.setup) - order.indexOf(b.setup));

/** A ladder: liking along it. */
function Climb({ trialId }: { trialId: string }) {
  const pairing = useQuery(pairingQuery(trialId, 'liking'));
  return <Loaded query={pairing}>{(p) => <CurveCard curve={p.curves[0]!} pairing={p} untold />}</Loaded>;
}

/** What becomes of each attribute along a ladder. */
function Trends({ trialId }: { trialId: string }) {
  const { data } = useQuery(trendsQuery(trialId));
  if (data?.length === 0) return null;
  return (
    <section className="card" aria-labelledby="trends">
      <h2 id="trends">What changes along it</h2>
      {data ? (
        <ul className={classes.trends}>
          {data.map((said) => (
            <li key={said}>{said}</li>
          ))}
        </ul>
      ) : (
        <p className="quiet">Trends are being worked out…</p>
      )}
    </section>
  );
}

export function FactorsCard({ trialId }: { trialId: string }) {
  const { data } = useQuery(valueQuery(trialId));
  return data?.factorial ? <Factors factorial={data.factorial} /> : null;
}

/** Under the numbers: the words that were counted, and what each stands out in. */
function TastesOf({ trialId, answer, order }: { trialId: string; answer: VerdictAnswer; order: string[] }) {
  const { data: all = [] } = useQuery(charactersQuery(trialId));
  const shown = order
    .map((letter) => ({ letter, plain: all.find((c) => c.setup === letter)?.plain ?? '' }))
    .filter(({ letter, plain }) => plain || answer.words.some((w) => w.setup === letter));
  if (!shown.length) return null;
  return (
    <section className="card" aria-labelledby="tastes">
      <h2 id="tastes">What each tastes of</h2>
      <ul className={classes.choices}>
        {shown.map(({ letter, plain }) => (
          <li key={letter}>
            <Penny stamp={letter} size={30} />
            <div>
              {plain && <p>{plain}</p>}
              <Words answer={answer} setup={letter} />
            </div>
          </li>
        ))}
      </ul>
    </section>
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
            {letters.map((l) => (
              <th key={l} scope="col">
                <Penny stamp={l} size={26} />
              </th>
            ))}
          </tr>
        </thead>
        {groups.map((g) => (
          <tbody key={g.tasters.join()}>
            <tr>
              <th scope="rowgroup" colSpan={letters.length}>
                <b>{plural(g.tasters.length, 'taster')}</b> <span className="quiet small">{g.tasters.join(', ')}</span>
              </th>
            </tr>
            <tr>
              {letters.map((l) => (
                <td key={l} data-best={g.favourites.includes(l) || undefined}>
                  <span className="num">{fixed(g.means[l], 1)}</span>
                  <span className="quiet small">
                    {g.favourites.includes(l) ? 'liked best' : `loses ${fixed(g.loses[l], 1)}`}
                  </span>
                </td>
              ))}
            </tr>
          </tbody>
        ))}
      </table>
    </section>
  );
}

/** Where each group's favourite lies in strength and yield. */
function CampsOnChart({ judged, answer }: { judged: Judged; answer: VerdictAnswer }) {
  const groups = answer.answer!.groups;
  const points = judged.setups.flatMap((s) =>
    s.tds && s.extraction_yield
      ? [
          {
            letter: s.setup,
            ey: s.extraction_yield.value!,
            tds: s.tds.value!,
            likedBy: groups
              .filter((g) => g.favourites.includes(s.setup))
              .map((g) => plural(g.tasters.length, 'taster'))
              .join(', '),
          },
        ]
      : [],
  );
  if (points.length < 2) return null;
  return (
    <ChartCard
      label="Where each group's favourite lies"
      name="groups-on-the-chart"
      table={{
        rows: points,
        columns: [
          { head: 'setup', of: (p) => p.letter },
          { head: 'yield, %', of: (p) => fixed(p.ey, 1) },
          { head: 'strength, % TDS', of: (p) => fixed(p.tds) },
          { head: 'liked best by', of: (p) => p.likedBy || '–' },
        ],
      }}
    >
      <CampsChart points={points} />
    </ChartCard>
  );
}

/** What was measured of each setup, where nothing was scored. */
export function MeasuredOf({ trialId }: { trialId: string }) {
  const { data } = useQuery(resultsQuery(trialId));
  if (!data?.runs.length) return null;
  return (
    <section className="card" aria-labelledby="measured">
      <h2 id="measured">What was measured</h2>
      <MeasuredTable setups={data.setups.map((s) => ({ ...s, setup: s.letter }))} />
    </section>
  );
}

/** In a tie: take the cheaper or the faster, in words. */
export function TieBreaker({ trialId }: { trialId: string }) {
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
  const passes = data ? cooling(data) : null;
  if (!data || !passes) return null;
  return (
    <section className="card" aria-labelledby="cools">
      <h2 id="cools">As it cools</h2>
      <AsItCools {...passes} label="Mean liking by pass" />
      <p className="small">{data.leaders}</p>
    </section>
  );
}

function SideBySide({ blind, sighted }: { blind: Judged; sighted: Judged }) {
  const order = (j: Judged) =>
    j.setups.map((s) => (
      <li key={s.setup}>
        <Penny stamp={s.setup} size={28} />
        <span className="num">{fixed(s.mean, 1)}</span>
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
