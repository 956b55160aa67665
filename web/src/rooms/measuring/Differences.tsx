import { useQuery } from '@tanstack/react-query';
import { Lines } from '../../ui/Lines';
import { Loaded } from '../../ui/Loading';
import { fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import classes from './Measure.module.css';
import { comparisonsQuery, type Results } from './queries';

const WORD: Record<string, string> = { different: 'different', same: 'the same', cannot_tell: 'cannot tell' };

/** Same, different, or cannot tell; and what each interval is made of. */
export function Differences({ trialId, results }: { trialId: string; results: Results }) {
  const found = useQuery(comparisonsQuery(trialId));
  const yielded = results.setups.filter((s) => s.extraction_yield);
  return (
    <Loaded query={found}>
      {(c) => (
        <div className={classes.two}>
          <section aria-label="Pairs of setups">
            <h3>Pair by pair, {results.yield_basis_label}</h3>
            {c.pairs.length === 0 && <p className="quiet">Two setups with a yield each can be compared.</p>}
            <ul className={classes.pairs}>
              {c.pairs.map((p) => (
                <li key={p.first + p.second}>
                  <span className={classes.pairHead}>
                    <Penny stamp={p.first} size={28} />
                    <Penny stamp={p.second} size={28} />
                    <b data-verdict={p.verdict}>{WORD[p.verdict]}</b>
                    <span className="num">
                      {fixed(p.difference.value, 1)} ± {fixed(p.difference.half_width, 1)} points
                    </span>
                  </span>
                  <span className="small quiet">{p.text}</span>
                </li>
              ))}
            </ul>
            {c.missing.length > 0 && <p className="quiet small">No yield yet: {c.missing.join(', ')}.</p>}
          </section>
          <section aria-label="What the intervals are made of">
            <h3>What each ± is made of</h3>
            <Lines label="Parts of each interval">
              <table className={classes.table}>
                <thead>
                  <tr>
                    <th scope="col">setup</th>
                    <th scope="col">yield, %</th>
                    <th scope="col">readings</th>
                    <th scope="col">instrument</th>
                    <th scope="col">brew to brew</th>
                  </tr>
                </thead>
                <tbody>
                  {yielded.map((s) => (
                    <tr key={s.setup_id}>
                      <th scope="row">
                        <span className={classes.brewName}>
                          <Penny stamp={s.letter} size={24} />
                          {s.name}
                        </span>
                      </th>
                      <td className="num">
                        {fixed(s.extraction_yield!.value, 1)} ± {fixed(s.extraction_yield!.half_width, 1)}
                      </td>
                      <td className="num">± {fixed(s.extraction_yield!.readings_half_width)}</td>
                      <td className="num">± {fixed(s.extraction_yield!.shared_half_width)}</td>
                      <td className="num">
                        {s.extraction_yield!.between_half_width === null ? (
                          <span className="quiet">one brew</span>
                        ) : (
                          `± ${fixed(s.extraction_yield!.between_half_width)}`
                        )}
                        {s.extraction_yield!.note && <small className="quiet"> {s.extraction_yield!.note}</small>}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </Lines>
            <p className="quiet small">
              One instrument reads every cup, so its own error cancels in a difference and is left out there.
            </p>
          </section>
        </div>
      )}
    </Loaded>
  );
}
