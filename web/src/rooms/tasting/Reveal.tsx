import { useEffect, useRef, useState } from 'react';
import { api, type Schemas, take } from '../../api/client';
import { fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import classes from './Sheet.module.css';

const LOOK_AGAIN_MS = 2000;
/** Nobody flips so late: from then on a phone looks now and then. */
const SOON_MS = 15 * 60_000;
const LATER_MS = 15_000;

type Revealed = Schemas['RevealAnswer'];

/** Looked for until the host has flipped. */
function useRevealed(token: string) {
  const [data, setData] = useState<Revealed | null>(null);
  useEffect(() => {
    let timer: number;
    let here = true;
    const since = Date.now();
    const look = async () => {
      const found = await take(api.GET('/api/v1/taste/{token}/reveal', { params: { path: { token } } })).catch(
        () => null,
      );
      if (!here) return;
      if (found) setData(found);
      if (!found?.flipped) timer = window.setTimeout(look, Date.now() - since < SOON_MS ? LOOK_AGAIN_MS : LATER_MS);
    };
    look();
    return () => {
      here = false;
      window.clearTimeout(timer);
    };
  }, [token]);
  return data;
}

/** Once the pennies are flipped: what each cup was, how this taster liked it beside the panel, and what they had guessed. */
export function Reveal({ token }: { token: string }) {
  const data = useRevealed(token);
  const waited = useRef(false);
  if (data && !data.flipped) waited.current = true;
  if (!data?.flipped)
    return <p className="quiet">What each cup was is shown here once the host has flipped the pennies.</p>;
  const right = data.cups.filter((c) => c.right).length;
  const guessed = data.cups.filter((c) => c.right !== null).length;
  return (
    <section aria-labelledby="reveal" className={classes.reveal}>
      <h2 id="reveal">What you tasted</h2>
      {guessed > 0 && (
        <p>
          {right} of {guessed} guesses were right.
        </p>
      )}
      {data.picks.map((said, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: rounds, in order
        <p key={i}>{said}</p>
      ))}
      {data.panel_right && <p className="quiet">{data.panel_right}</p>}
      <ul>
        {[...data.cups]
          .sort((a, b) => (b.liking ?? 0) - (a.liking ?? 0) || (a.place ?? 0) - (b.place ?? 0))
          .map((c) => (
            <li key={c.code}>
              <span className={classes.turned} data-turning={waited.current}>
                <Penny stamp={c.letter} size={40} label={`Cup ${c.code}`} />
              </span>
              <span>
                <b>{c.setup}</b> <span className="num quiet">{c.code}</span>
                <br />
                {c.liking !== null && <>you {fixed(c.liking, 1)}</>}
                {c.panel !== null && <span className="quiet"> · the panel {fixed(c.panel, 1)}</span>}
                {c.place !== null && <>your place {fixed(c.place, 0)}</>}
                {c.panel_place !== null && <span className="quiet"> · the panel’s mean {fixed(c.panel_place, 1)}</span>}
                {c.right !== null && (
                  <span className="quiet">
                    {' '}
                    · guessed {c.guessed}, {c.right ? 'right' : 'wrong'}
                  </span>
                )}
              </span>
            </li>
          ))}
      </ul>
      <p className="quiet small">
        {data.cups.some((c) => c.panel !== null) && 'One panel’s means of these cups. '}The verdict is the host’s to
        show.
      </p>
    </section>
  );
}
