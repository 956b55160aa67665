import { Button, Tabs } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams, useSearchParams } from 'react-router';
import { JUDGED_PASSES } from '../../api/vocabulary';
import { labelOf } from '../../api/words';
import { Loaded } from '../../ui/Loading';
import { dayAndTime, plural } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { Term } from '../../ui/Term';
import { Against } from './Against';
import { Answer, FactorsCard, MeasuredOf, TieBreaker } from './Answer';
import { ForWhom } from './ForWhom';
import { JudgedBy, ScatterBy } from './JudgedBy';
import { Next } from './Next';
import { Panel } from './Panel';
import { type Judged, type VerdictAnswer, verdictQuery } from './queries';
import { ToldApart } from './ToldApart';
import { CostsCard, Value } from './Value';
import classes from './Verdict.module.css';

const VIEWS = {
  answer: 'Answer',
  'for-whom': 'For whom',
  against: 'Taste and readings',
  value: 'Value',
  panel: 'Panel',
} as const;

/** Verdict: what to brew tomorrow, how sure that is, and what would settle the rest. */
export function VerdictStation() {
  const { id = '' } = useParams();
  const verdict = useQuery(verdictQuery(id));
  return (
    <Loaded query={verdict}>
      {(v) => {
        const judged = v.blind ?? v.sighted;
        if (judged && v.answer) return <Shown trialId={id} judged={judged} answer={v} />;
        if (v.answer) return <WithoutScores trialId={id} answer={v} />;
        return <NotYet trialId={id} answer={v} />;
      }}
    </Loaded>
  );
}

function Shown({ trialId, judged, answer }: { trialId: string; judged: Judged; answer: VerdictAnswer }) {
  const [params, setParams] = useSearchParams();
  const view = params.get('view') ?? 'answer';
  return (
    <>
      <Headline trialId={trialId} judged={judged} answer={answer} />
      <Tabs
        value={view}
        onChange={(to) => setParams(to && to !== 'answer' ? { view: to } : {}, { replace: true })}
        keepMounted={false}
      >
        <Tabs.List className={classes.views}>
          {Object.entries(VIEWS).map(([value, label]) => (
            <Tabs.Tab key={value} value={value}>
              {label}
            </Tabs.Tab>
          ))}
        </Tabs.List>
        <Tabs.Panel value="answer">
          <Answer trialId={trialId} judged={judged} answer={answer} />
        </Tabs.Panel>
        <Tabs.Panel value="for-whom">
          <ForWhom trialId={trialId} answer={answer} />
        </Tabs.Panel>
        <Tabs.Panel value="against">
          <Against trialId={trialId} answer={answer} />
        </Tabs.Panel>
        <Tabs.Panel value="value">
          <Value trialId={trialId} judged={judged} />
        </Tabs.Panel>
        <Tabs.Panel value="panel">
          <Panel judged={judged} answer={answer} />
        </Tabs.Panel>
      </Tabs>
      <Earlier answer={answer} />
    </>
  );
}

/** The answer to the question that was asked; every list and the report say the same. */
function Headline({ trialId, judged, answer }: { trialId: string; judged: Judged | null; answer: VerdictAnswer }) {
  const said = answer.answer!;
  const passes = judged?.pass_name ? `, ${labelOf(JUDGED_PASSES, judged.pass_name)}` : '';
  return (
    <header className={classes.head}>
      <Lead answer={answer} />
      <div className={classes.said}>
        <h1>{said.headline}</h1>
        <p className={classes.text}>
          {said.sighted && (
            <>
              People routinely guess wrong once the labels are gone.{' '}
              <Link to={`/trials/${trialId}/taste`}>Pour a blind flight</Link> before you rely on it.{' '}
            </>
          )}
          {said.certainty}
        </p>
        <p className={classes.action}>{said.action}</p>
        {judged && (
          <p className="quiet small">
            {answer.panel}
            {passes}; a <Term of="least_difference">lead below {judged.smallest_difference} points</Term> does not
            matter here.
          </p>
        )}
        {answer.scatter && <ScatterBy trialId={trialId} scatter={answer.scatter} />}
        {judged && <JudgedBy trialId={trialId} />}
      </div>
      <Button variant="default" component={Link} to={`/trials/${trialId}/report`} flex="none">
        Report
      </Button>
    </header>
  );
}

const DROPPED_PX = 44;

/** The penny that is kept, at headline size; one that is only leaned to stands on its edge; those that are dropped are struck. */
function Lead({ answer }: { answer: VerdictAnswer }) {
  const { kept, leans, dropped } = answer.answer!;
  if (!kept.length && !leans) return null;
  return (
    <div className={classes.lead}>
      {kept.map((letter) => (
        <Penny key={letter} stamp={letter} size={kept.length > 1 ? 72 : 104} />
      ))}
      {leans && (
        <span className={classes.onEdge}>
          <Penny stamp={leans} size={92} />
        </span>
      )}
      {dropped.length > 0 && (
        <span className={classes.dropped}>
          {dropped.map((letter) => (
            <span key={letter} className={classes.struck} title="Dropped">
              <Penny stamp={letter} size={DROPPED_PX} label={`Setup ${letter}, dropped`} />
            </span>
          ))}
        </span>
      )}
    </div>
  );
}

/** Only differences, preferences or ranks were asked for. */
function WithoutScores({ trialId, answer }: { trialId: string; answer: VerdictAnswer }) {
  const { kind } = answer.answer!;
  return (
    <>
      <Headline trialId={trialId} judged={null} answer={answer} />
      <div className={classes.grid} style={{ marginTop: 14 }}>
        <div className={classes.column}>
          {kind === 'factors' && <FactorsCard trialId={trialId} />}
          <TieBreaker trialId={trialId} />
          <ToldApart answer={answer} />
          <Next trialId={trialId} />
        </div>
        <div className={classes.column}>
          <MeasuredOf trialId={trialId} />
          <CostsCard trialId={trialId} />
        </div>
      </div>
    </>
  );
}

function NotYet({ trialId, answer }: { trialId: string; answer: VerdictAnswer }) {
  const waiting = answer.flights_to_flip
    ? 'A flight is closed: turn over the servers and enter the marks.'
    : answer.flights_open
      ? 'A flight is being tasted. Close it when everybody is done.'
      : 'Nothing has been tasted yet.';
  return (
    <div className="card">
      <h1>No verdict yet</h1>
      <p className="quiet">{waiting}</p>
      <Button mt="md" size="md" component={Link} to={`/trials/${trialId}/taste`}>
        Taste
      </Button>
    </div>
  );
}

function Earlier({ answer }: { answer: VerdictAnswer }) {
  if (!answer.earlier.length) return null;
  return (
    <details className={classes.earlier}>
      <summary>{plural(answer.earlier.length, 'earlier verdict')}, before something was added or corrected</summary>
      <ul>
        {answer.earlier.map((e) => (
          <li key={e.judged_at}>
            {dayAndTime(e.judged_at)}: {e.sighted && 'sighted, '}
            {e.headline}
          </li>
        ))}
      </ul>
    </details>
  );
}
