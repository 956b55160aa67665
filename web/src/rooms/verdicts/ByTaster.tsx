import { Lines } from '../../ui/Lines';
import { fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { standing } from './favourite';
import type { Judged } from './queries';
import classes from './Verdict.module.css';

/** Each taster's mean liking of each setup, a column a setup: who agrees, who does not. */
export function ByTaster({ judged }: { judged: Judged }) {
  const letters = judged.setups.map((s) => s.setup);
  return (
    <>
      <Lines className={classes.scroll} label="Liking by taster">
        <table className={classes.byTaster}>
          <thead>
            <tr>
              <th scope="col">taster</th>
              {letters.map((letter) => (
                <th key={letter} scope="col">
                  <Penny stamp={letter} size={26} />
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {judged.by_taster.map((row) => (
              <tr key={row.taster}>
                <th scope="row">{row.taster}</th>
                {letters.map((letter) => {
                  const { mean, share, favourite } = standing(row.means, letter);
                  return (
                    <td key={letter} className="num" data-favourite={favourite || undefined}>
                      {mean === null ? (
                        '–'
                      ) : (
                        <>
                          <span className={classes.level} style={{ width: `${100 * share}%` }} aria-hidden />
                          {fixed(mean, 1)}
                          {favourite && <span className="sr-only">, liked best</span>}
                        </>
                      )}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </Lines>
      <p className="quiet small">A bar runs from 1 to 9; each taster's favourite is set in bold.</p>
    </>
  );
}
