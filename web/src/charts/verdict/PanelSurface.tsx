import { scaleLinear } from '@visx/scale';
import { fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { Sized, XTicks, YTicks } from '../Sized';

type Surface = {
  ey_pct: number[];
  tds_pct: number[];
  liking: number[][];
  guess: boolean[][];
  best: number[] | null;
};
type Cup = { letter: string; label: string; ey: number; tds: number };

const HEIGHT = 330;
const LEFT = 50;
const RIGHT = 16;
const BOTTOM = 40;

/** The panel's own liking over strength and yield: darker is liked more, hatched is a guess. */
export function PanelSurface({ surface, cups }: { surface: Surface; cups: Cup[] }) {
  return (
    <Sized height={HEIGHT} label="This panel's liking over yield and strength">
      {(width) => <Drawn surface={surface} cups={cups} width={width} />}
    </Sized>
  );
}

function Drawn({ surface, cups, width }: { surface: Surface; cups: Cup[]; width: number }) {
  const { ey_pct, tds_pct, liking, guess } = surface;
  const x = scaleLinear<number>({
    domain: [ey_pct[0]!, ey_pct.at(-1)!],
    range: [LEFT, Math.max(LEFT + 10, width - RIGHT)],
  });
  const y = scaleLinear<number>({ domain: [tds_pct[0]!, tds_pct.at(-1)!], range: [HEIGHT - BOTTOM, 10] });
  const sure = liking.flatMap((row, i) => row.filter((_, j) => !guess[i]![j]));
  const low = Math.min(...sure);
  const high = Math.max(...sure);
  const cellW = (x(ey_pct.at(-1)!) - LEFT) / (ey_pct.length - 1);
  const cellH = (HEIGHT - BOTTOM - 10) / (tds_pct.length - 1);
  return (
    <>
      <defs>
        <pattern id="guess" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="7" height="7" fill="var(--sunk)" />
          <line x1="0" x2="0" y1="0" y2="7" stroke="var(--line-strong)" strokeWidth="1.5" />
        </pattern>
        <clipPath id="inside">
          <rect x={LEFT} y={10} width={Math.max(0, width - LEFT - RIGHT)} height={HEIGHT - BOTTOM - 10} />
        </clipPath>
      </defs>
      <g clipPath="url(#inside)">
        {liking.map((row, i) =>
          row.map((v, j) => (
            <rect
              key={`${ey_pct[j]}/${tds_pct[i]}`}
              x={x(ey_pct[j]!) - cellW / 2}
              y={y(tds_pct[i]!) - cellH / 2}
              width={cellW + 0.5}
              height={cellH + 0.5}
              fill={guess[i]![j] ? 'url(#guess)' : 'var(--verdigris)'}
              fillOpacity={guess[i]![j] ? 1 : 0.08 + (0.72 * (v - low)) / Math.max(0.2, high - low)}
            />
          )),
        )}
      </g>
      <YTicks y={y} left={LEFT} right={width - RIGHT} count={5} lines={false} />
      <XTicks
        x={x}
        y={HEIGHT - BOTTOM + 16}
        label="yield, % · strength, % TDS upwards"
        labelY={HEIGHT - 4}
        middle={(LEFT + width - RIGHT) / 2}
        count={6}
      />
      {cups.map((c) => (
        <svg key={c.label} x={x(c.ey) - 11} y={y(c.tds) - 11} width={22} height={22} overflow="visible">
          <Penny stamp={c.letter} size={22} label={`${c.label}: ${fixed(c.ey, 1)} % EY, ${fixed(c.tds)} % TDS`} />
        </svg>
      ))}
      {surface.best && (
        <g role="img" aria-label={`Liked best near ${fixed(surface.best[0], 1)} % EY, ${fixed(surface.best[1])} % TDS`}>
          <circle
            cx={x(surface.best[0]!)}
            cy={y(surface.best[1]!)}
            r={15}
            fill="none"
            stroke="var(--ink)"
            strokeWidth={2.5}
          />
        </g>
      )}
    </>
  );
}
