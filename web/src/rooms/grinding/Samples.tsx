import { Button } from '@mantine/core';
import { Link } from 'react-router';
import { Confirm } from '../../ui/Confirm';
import { Lines } from '../../ui/Lines';
import { fixed } from '../../ui/numbers';
import { useTellDeleted } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import classes from './Grind.module.css';
import { type Grind, removeSample } from './queries';
import { draftOf } from './TwoGrinds';

const day = (iso: string) => new Date(`${iso}T12:00`).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' });

/** Every sample with what it lost; one more of the same is a press away. */
export function Samples({ grinds }: { grinds: Grind[] }) {
  const tellDeleted = useTellDeleted();
  const remove = useSend((id: string) => removeSample(id), {
    onDone: (done) => tellDeleted('The sample', done.change_id),
  });
  return (
    <details className={`card ${classes.samples}`}>
      <summary>
        <h2>Samples</h2>
      </summary>
      <Lines label="Samples">
        <table className={classes.figures}>
          <thead>
            <tr>
              {['Grind', 'No.', 'On', 'Stack', 'In, g', 'Heaps from the pan up, g', 'Recovered', ''].map((head) => (
                <th key={head} scope="col">
                  {head || <span className="sr-only">Change</span>}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {grinds.flatMap((g) =>
              g.samples.map((s) => (
                <tr key={s.id}>
                  <th scope="row">
                    {g.name}
                    {s.source === 'simulated' && <span className="quiet small"> simulated</span>}
                    {s.said.map((t) => (
                      <p key={t} className={classes.trouble}>
                        {t}
                      </p>
                    ))}
                  </th>
                  <td className="num">{s.replicate}</td>
                  <td>{day(s.sampled_on)}</td>
                  <td>{g.stack}</td>
                  <td className="num">{s.source === 'table' ? '–' : fixed(s.mass_in_g, 1)}</td>
                  <td className="num">
                    {s.fractions.length > 12
                      ? `${s.fractions.length} sizes`
                      : s.fractions.map((f) => fixed(f.mass_g, 1)).join(' · ')}
                  </td>
                  <td className="num">{fixed(s.recovery_pct, 1)} %</td>
                  <td className={classes.rowActions}>
                    {s.source !== 'table' && (
                      <Button
                        component={Link}
                        to={`/grind/sample?${draftOf(g.dial_id, g.setting, g)}`}
                        size="compact-xs"
                        variant="subtle"
                      >
                        one more
                      </Button>
                    )}
                    {s.source !== 'table' && (
                      <Button
                        component={Link}
                        to={`/grind/sample?edit=${s.id}`}
                        size="compact-xs"
                        variant="subtle"
                        aria-label={`Correct ${g.name}, no. ${s.replicate}`}
                      >
                        correct
                      </Button>
                    )}
                    <Confirm
                      question={`Delete no. ${s.replicate} of ${g.name}?`}
                      detail="It can be undone."
                      verb="Delete it"
                      onYes={() => remove.mutate(s.id)}
                    >
                      {(ask) => (
                        <Button
                          size="compact-xs"
                          variant="subtle"
                          color="red"
                          onClick={ask}
                          aria-label={`Delete ${g.name}, no. ${s.replicate}`}
                        >
                          delete
                        </Button>
                      )}
                    </Confirm>
                  </td>
                </tr>
              )),
            )}
          </tbody>
        </table>
      </Lines>
    </details>
  );
}
