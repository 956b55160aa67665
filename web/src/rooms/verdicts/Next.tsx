import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { Lines } from '../../ui/Lines';
import { fixed, percent, workTime } from '../../ui/numbers';
import { useSend } from '../../ui/useSend';
import { draftNext, type NextStep, nextQuery } from './queries';
import classes from './Verdict.module.css';

const NAMES: Record<NextStep['code'], string> = {
  one_more_brew: 'One more brew of each',
  one_more_flight: 'One more flight, two brews of each',
  more_tasters: 'Four more tasters',
  next_value: 'The next value on the ladder',
};

/** What to do to be surer: the step that removes most doubt for its coffee and minutes. */
export function Next({ trialId }: { trialId: string }) {
  const { data } = useQuery(nextQuery(trialId));
  const go = useNavigate();
  const draft = useSend(draftNext, { onDone: (d) => go(`/trials/${trialId}/${d.station}`) });
  const [best, ...others] = data?.steps ?? [];
  return (
    <section className="card" aria-labelledby="next">
      <h2 id="next">Next, if you want to be surer</h2>
      {data && data.untasted.length > 0 && (
        <p>
          <b>Pour what is brewed first:</b> {data.untasted.join(', ')} {data.untasted.length === 1 ? 'is' : 'are'} there
          and not tasted. <Link to={`/trials/${trialId}/taste`}>Pour a flight</Link>
        </p>
      )}
      {best ? (
        <>
          <p>{best.text}</p>
          <div className={classes.nextButtons}>
            <Button
              variant={best.urged ? 'filled' : 'default'}
              loading={draft.isPending}
              onClick={() => draft.mutate({ id: trialId, code: best.code })}
            >
              Draft it
            </Button>
          </div>
          <Lines className={classes.scroll} label="Next steps">
            <table className={`${classes.table} ${classes.steps}`}>
              <caption className="sr-only">What each step would take and settle</caption>
              <thead>
                <tr>
                  <th scope="col">step</th>
                  <th scope="col">costs</th>
                  <th scope="col">risk removed, points</th>
                  <th scope="col">chance of an answer</th>
                  <th scope="col">
                    <span className="sr-only">draft</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {[best, ...others].map((s) => (
                  <tr key={s.code}>
                    <th scope="row">
                      {NAMES[s.code]}
                      {s.level && <span className="quiet small"> equally useful</span>}
                    </th>
                    <td className="num">
                      {fixed(s.grams, 0)} g
                      <br />
                      {workTime(s.minutes)}
                    </td>
                    <td className="num">{fixed(s.removes)}</td>
                    <td className="num">{s.settles === null ? '–' : percent(s.settles)}</td>
                    <td>
                      {s !== best && (
                        <Button
                          size="compact-sm"
                          variant="default"
                          onClick={() => draft.mutate({ id: trialId, code: s.code })}
                        >
                          Draft
                        </Button>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </Lines>
          <p className="quiet small">
            Risk is what choosing now loses on average. Ranked by risk removed for the coffee and minutes.
          </p>
        </>
      ) : (
        <p className="quiet">
          {data ? data.note || 'Nothing more is worth brewing for this question.' : 'Next steps are being worked out…'}
        </p>
      )}
      {data?.spent && <p className="quiet small">{data.spent}</p>}
    </section>
  );
}
