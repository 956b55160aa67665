import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { Loaded } from '../../ui/Loading';
import { setUpQuery, trialQuery } from '../trials/queries';
import { BudgetCard } from './BudgetCard';
import { DesignCard } from './DesignCard';
import { OrderCard } from './OrderCard';
import classes from './Plan.module.css';
import { PowerCard } from './PowerCard';
import { planQuery } from './queries';
import { ReadyCard } from './ReadyCard';
import { SetUpTabs } from './SetUpTabs';
import { SizeCard } from './SizeCard';

/** What the comparison costs and what it will be able to tell, before the coffee is spent. */
export function PlanPage() {
  const { id = '' } = useParams();
  const plan = useQuery(planQuery(id));
  const setUp = useQuery(setUpQuery(id));
  const trial = useQuery(trialQuery(id));
  return (
    <>
      <SetUpTabs trialId={id} />
      <Loaded query={plan}>
        {(p) =>
          p.setups.length === 0 || !setUp.data || !trial.data ? (
            <div className="card">
              <p>A plan needs a first setup to copy the rest from.</p>
              <Button mt="sm" component={Link} to={`/trials/${id}/set-up`}>
                Describe the first setup
              </Button>
            </div>
          ) : (
            <>
              <SizeCard trialId={id} plan={p} />
              {p.step_told && (
                <p role="note" className={classes.notTold}>
                  {p.step_told} <Link to="/palate">What this panel can tell</Link>
                </p>
              )}
              <div className={classes.columns}>
                <div className={classes.column}>
                  <PowerCard plan={p} setups={p.setups.length} />
                  <OrderCard trialId={id} plan={p} />
                </div>
                <div className={classes.column}>
                  {p.budget && <BudgetCard budget={p.budget} />}
                  <DesignCard trialId={id} plan={p} trial={trial.data} setUp={setUp.data} />
                  <ReadyCard trialId={id} plan={p} />
                  {p.setups.length > 1 && (
                    <Button component={Link} to={`/trials/${id}/brew`} size="md">
                      Start brewing
                    </Button>
                  )}
                </div>
              </div>
            </>
          )
        }
      </Loaded>
    </>
  );
}
