import { useDebouncedValue } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { Refused } from '../../api/client';
import { fixed } from '../../ui/numbers';
import classes from './Grind.module.css';
import { type Sieved, sieveQuery } from './queries';

type Heap = { aperture_um: number; mass_g: number | null };

/** What the heaps say while they are typed: from the first whole stack on. */
type LiveSieveProps = { heaps: Heap[]; massIn: number | null; stepG: number };

export function LiveSieve({ heaps, massIn, stepG }: LiveSieveProps) {
  const weighed = heaps.reduce((sum, h) => sum + (h.mass_g ?? 0), 0);
  const whole = massIn !== null && heaps.length > 2 && heaps.every((h) => h.mass_g !== null);
  const asked = JSON.stringify({ massIn, heaps });
  const [steady] = useDebouncedValue(asked, 150);
  const found = useQuery({
    ...sieveQuery(
      massIn ?? 0,
      heaps.map((h) => ({ aperture_um: h.aperture_um, mass_g: h.mass_g ?? 0 })),
      stepG,
    ),
    enabled: whole && steady === asked,
  });
  return (
    <section className={`card ${classes.live}`} aria-label="What it says" aria-live="polite">
      <h2>What it says</h2>
      <p className={classes.left_g}>
        {massIn !== null && massIn - weighed < -0.05 ? (
          <>
            <b className="num">{fixed(weighed - massIn, 1)} g</b> more than went in
          </>
        ) : (
          <>
            <b className="num">{fixed(massIn === null ? null : massIn - weighed, 1)} g</b> of what went in not yet
            weighed
          </>
        )}
      </p>
      {whole && found.error instanceof Refused && <p className={classes.trouble}>{found.error.message}</p>}
      {whole && found.data ? (
        <Says found={found.data} />
      ) : (
        <p className="quiet">Weigh every heap; what lies nowhere is 0.</p>
      )}
    </section>
  );
}

const at = (p: Sieved['d50']) => {
  if (p.at_um)
    return `${fixed(p.at_um.value, 0)} µm (${fixed(p.at_um.interval[0], 0)} to ${fixed(p.at_um.interval[1], 0)})`;
  const [low, high] = p.between_um;
  return low && high ? `between ${low} and ${high} µm` : low ? `above ${low} µm` : `below ${high} µm`;
};

export function Says({ found }: { found: Sieved }) {
  const { band } = found;
  const share = (s: Sieved['in_band']) =>
    `${fixed(s.of_recovered_pct.value, 1)} % · ${fixed(s.of_mass_in_pct.value, 1)} %`;
  const rows = [
    ['Median, d50', at(found.d50)],
    [`In band, ${band.from_um} to ${band.to_um} µm`, share(found.in_band)],
    ['Finer', share(found.fines)],
    ['Coarser', share(found.coarse)],
    ['d10', at(found.d10)],
    ['d90', at(found.d90)],
    ['Span', found.span ? fixed(found.span.value, 2) : 'not located'],
    ['Recovered', `${fixed(found.recovery_pct.value, 1)} %, ${fixed(found.lost_g, 1)} g lost`],
    ...(found.weibull
      ? [
          [
            'Weibull (Rosin–Rammler)',
            `${fixed(found.weibull.size_um, 0)} µm, evenness ${fixed(found.weibull.evenness, 2)}, off by ${fixed(found.weibull.misfit_pct, 1)} points at most`,
          ],
        ]
      : []),
  ] as [string, string][];
  return (
    <>
      <dl className={classes.says}>
        {rows.map(([name, value]) => (
          <div key={name}>
            <dt>{name}</dt>
            <dd className="num">{value}</dd>
          </div>
        ))}
      </dl>
      <p className="quiet small">Shares are of what was recovered · of what went in.</p>
      {found.said.map((t) => (
        <p key={t} className="small">
          {t}
        </p>
      ))}
    </>
  );
}
