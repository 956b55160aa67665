import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useParams } from 'react-router';
import { Loaded } from '../../ui/Loading';
import { plural } from '../../ui/numbers';
import { Term } from '../../ui/Term';
import { type RunMeasured, resultsQuery } from '../measuring/queries';
import { trialPhotosQuery } from '../photos/queries';
import { setUpQuery } from '../trials/queries';
import classes from './Brew.module.css';
import { EditRun } from './EditRun';
import { LogBrew, type Purpose } from './LogBrew';
import { slotsQuery } from './queries';
import { RunRow } from './RunRow';
import { Slots } from './Slots';
import { nextSetup } from './turn';

/** Brew: log what was weighed and timed; every brew so far, with its doubts. */
export function BrewStation() {
  const { id = '' } = useParams();
  const setUp = useQuery(setUpQuery(id));
  const results = useQuery(resultsQuery(id));
  const planned = useQuery(slotsQuery(id));
  const { data: photos = [] } = useQuery(trialPhotosQuery(id));
  const [editing, setEditing] = useState<RunMeasured | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const [purpose, setPurpose] = useState<Purpose>('evidence');
  const { slots, drafted } = planned.data ?? { slots: [], drafted: '' };
  const setups = setUp.data?.setups;
  useEffect(() => {
    // Once: somebody else's brew must not change whose turn it is under what is typed.
    if (chosen === null && planned.data && setups?.length) setChosen(nextSetup(planned.data.slots, setups));
  }, [chosen, planned.data, setups]);
  return (
    <Loaded query={setUp}>
      {({ setups }) =>
        setups.length === 0 ? (
          <div className="card">
            <p>There is nothing to brew yet: describe the setups first.</p>
            <Button mt="sm" component={Link} to={`/trials/${id}/set-up`}>
              Set up
            </Button>
          </div>
        ) : (
          <Loaded query={results}>
            {(r) => {
              const setupId = setups.some((s) => s.id === chosen) ? chosen! : nextSetup(slots, setups);
              return (
                <>
                  <Slots
                    trialId={id}
                    slots={slots}
                    drafted={drafted}
                    chosen={setupId}
                    poured={r.runs.some((run) => run.in_flight)}
                    onChoose={setChosen}
                  />
                  <div className={classes.columns}>
                    {!planned.isPending && ( // whose turn it is must not change under what is typed
                      <LogBrew
                        key={setupId}
                        trialId={id}
                        setups={setups}
                        setup={setups.find((s) => s.id === setupId)!}
                        yield_basis={r.yield_basis}
                        purpose={purpose}
                        onPurpose={setPurpose}
                        onChoose={setChosen}
                        onLogged={() => setChosen(nextSetup(slots, setups, setupId))}
                      />
                    )}
                    <section aria-labelledby="brews">
                      <h1 id="brews">{r.runs.length ? `${plural(r.runs.length, 'brew')} logged` : 'No brew yet'}</h1>
                      <p className="quiet" style={{ marginBottom: 12 }}>
                        {r.runs.length
                          ? !slots.length && 'Brew each setup at least twice, to separate the setup from the pour.'
                          : 'Boiling water scalds, and a dripper on a server topples: steady it.'}
                      </p>
                      <div className={classes.list}>
                        {[...r.runs].reverse().map((run) => (
                          <RunRow key={run.id} run={run} photos={photos} onEdit={() => setEditing(run)} />
                        ))}
                      </div>
                      {r.dial_ins.length > 0 && (
                        <>
                          <h2 className={classes.dialIns}>Dial-in brews</h2>
                          <p className="quiet small">
                            A <Term of="dial_in">dial-in</Term> gets a setup ready and never counts as evidence.
                          </p>
                          <div className={classes.list}>
                            {[...r.dial_ins].reverse().map((run) => (
                              <RunRow key={run.id} run={run} photos={photos} onEdit={() => setEditing(run)} />
                            ))}
                          </div>
                        </>
                      )}
                    </section>
                    {editing && <EditRun run={editing} yield_basis={r.yield_basis} onClose={() => setEditing(null)} />}
                  </div>
                </>
              );
            }}
          </Loaded>
        )
      }
    </Loaded>
  );
}
