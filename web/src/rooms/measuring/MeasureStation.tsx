import { Button, Tabs } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { Loaded } from '../../ui/Loading';
import { fixed } from '../../ui/numbers';
import { Term } from '../../ui/Term';
import { BrewTable } from './BrewTable';
import { Charts } from './Charts';
import { Differences } from './Differences';
import { MatchStrengths } from './MatchStrengths';
import classes from './Measure.module.css';
import { NextChange } from './NextChange';
import { type Results, resultsQuery } from './queries';

/** Measure: where each brew stands, what it takes to know it better, and what follows. */
export function MeasureStation() {
  const { id = '' } = useParams();
  const results = useQuery(resultsQuery(id));
  return (
    <Loaded query={results}>
      {(r) => (r.runs.length ? <Measured trialId={id} results={r} /> : <NothingBrewed trialId={id} />)}
    </Loaded>
  );
}

function NothingBrewed({ trialId }: { trialId: string }) {
  return (
    <div className="card">
      <p>No brew is logged yet, so there is nothing to read.</p>
      <Button mt="sm" component={Link} to={`/trials/${trialId}/brew`}>
        Log a brew
      </Button>
    </div>
  );
}

function Measured({ trialId, results }: { trialId: string; results: Results }) {
  const read = results.runs.filter((run) => run.tds).length;
  const all = [...results.runs, ...results.dial_ins];
  return (
    <>
      <header className={classes.head}>
        <div>
          <h1>
            {read === results.runs.length ? 'Every brew is read' : `${read} of ${results.runs.length} brews read`}
          </h1>
          <p className="quiet">
            Shown as <Term of={results.yield_basis}>{results.yield_basis_label}</Term>. Lines are brews of equal ratio,
            for <span className="num">{fixed(results.retained_water_ratio)} g</span> of{' '}
            <Term of="retained">retained water</Term> per gram.
          </p>
        </div>
      </header>
      <Charts trialId={trialId} results={results} />
      {results.note && <p className={classes.note}>{results.note}</p>}
      <Tabs defaultValue="brews" className={classes.tabs} keepMounted={false}>
        <Tabs.List>
          <Tabs.Tab value="brews">Brews</Tabs.Tab>
          <Tabs.Tab value="differences">Same or different</Tabs.Tab>
          <Tabs.Tab value="match">Match strengths</Tabs.Tab>
          <Tabs.Tab value="change">Next change</Tabs.Tab>
        </Tabs.List>
        <Tabs.Panel value="brews">
          <BrewTable runs={all} yieldBasisLabel={results.yield_basis_label} />
        </Tabs.Panel>
        <Tabs.Panel value="differences">
          <Differences trialId={trialId} results={results} />
        </Tabs.Panel>
        <Tabs.Panel value="match">
          <MatchStrengths trialId={trialId} />
        </Tabs.Panel>
        <Tabs.Panel value="change">
          <NextChange runs={all} />
        </Tabs.Panel>
      </Tabs>
    </>
  );
}
