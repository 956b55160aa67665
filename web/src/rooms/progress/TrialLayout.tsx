import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Outlet, useMatches, useParams } from 'react-router';
import { Loaded } from '../../ui/Loading';
import { useTitle } from '../../ui/title';
import { HistoryDrawer } from '../history/HistoryDrawer';
import { trialQuery } from '../trials/queries';
import { Margin } from './Margin';
import { progressQuery } from './queries';
import { Rail } from './Rail';
import classes from './TrialLayout.module.css';

const POLICY_WORDS = { as_brewed: 'as brewed', matched: 'to be matched in strength' } as const;

/** A trial's frame: question and rail above, margin beside, the station between. */
export function TrialLayout() {
  const { id = '' } = useParams();
  const trial = useQuery(trialQuery(id));
  const rail = useQuery(progressQuery(id));
  const [history, setHistory] = useState(false);
  const station = (useMatches().at(-1)?.handle as { station?: string } | undefined)?.station;
  useTitle(trial.data?.question, station);
  return (
    <Loaded query={trial}>
      {(t) => (
        <div className={classes.trial}>
          <header className={classes.top}>
            <div className={classes.asked}>
              <p className={classes.question}>{t.question}</p>
              <p className="quiet small">
                Trial {t.number} · {t.factor_label} · {t.yield_basis_label} · {POLICY_WORDS[t.strength_policy]} ·{' '}
                <Button variant="transparent" size="compact-xs" p={0} onClick={() => setHistory(true)}>
                  History
                </Button>
              </p>
            </div>
            {rail.data && <Rail trialId={id} stops={rail.data.stops} />}
          </header>
          <div className={classes.body}>
            <main className={classes.station}>
              <Outlet />
            </main>
            <Margin trialId={id} caveats={rail.data?.caveats ?? []} grade={rail.data?.grade ?? null} />
          </div>
          {history && <HistoryDrawer trialId={id} onClose={() => setHistory(false)} />}
        </div>
      )}
    </Loaded>
  );
}
