import { scaleLinear } from '@visx/scale';
import { fixed } from '../../ui/numbers';
import chart from '../chart.module.css';
import { Sized, XTicks } from '../Sized';
import classes from './Grind.module.css';
import { rulerTicks } from './geometry';

type Peg = {
  id: string;
  dial_id: string;
  setting: string;
  name: string;
  d50_um: number;
  low_um: number;
  high_um: number;
};
type Ruler = {
  dial_id: string;
  name: string;
  settings: [number, number];
  ends_um: [number, number];
  step: number;
};

const ROW = 62;
const FOOT = 40;
const SIDE = 26;

type DialRulersProps = {
  dials: { id: string; name: string }[];
  pegs: Peg[];
  rulers: Ruler[];
  first: string;
  second: string;
  onPick: (id: string) => void;
};

/** Dials side by side on one scale of sizes: what stands under one another grinds alike, whichever way a dial runs. */
export function DialRulers(props: DialRulersProps) {
  const sampled = props.dials.filter((d) => props.pegs.some((p) => p.dial_id === d.id));
  if (!sampled.length) return null;
  return (
    <Sized height={sampled.length * ROW + FOOT} label="Settings by the median they grind to">
      {(width) => <Drawn {...props} dials={sampled} width={width} />}
    </Sized>
  );
}

function Drawn({ dials, pegs, rulers, first, second, onPick, width }: DialRulersProps & { width: number }) {
  const ends = [...pegs.flatMap((p) => [p.low_um, p.high_um]), ...rulers.flatMap((r) => r.ends_um)];
  const spare = 0.06 * (Math.max(...ends) - Math.min(...ends)) + 4;
  const x = scaleLinear<number>({
    domain: [Math.min(...ends) - spare, Math.max(...ends) + spare],
    range: [SIDE, Math.max(SIDE + 10, width - SIDE)],
  });
  const foot = dials.length * ROW;
  return (
    <>
      {dials.map((dial, i) => {
        const base = i * ROW + 38;
        const ruler = rulers.find((r) => r.dial_id === dial.id);
        return (
          <g key={dial.id} role="group" aria-label={dial.name}>
            <text className={classes.dial} x={SIDE} y={base - 24}>
              {dial.name}
            </text>
            <line className={classes.base} x1={SIDE} x2={width - SIDE} y1={base} y2={base} />
            {ruler &&
              rulerTicks(ruler.settings, ruler.step, ruler.ends_um, x).map((px) => (
                <line key={px} className={classes.step} x1={px} x2={px} y1={base} y2={base + 5} />
              ))}
            {pegs
              .filter((p) => p.dial_id === dial.id)
              .map((p) => (
                <PegMark
                  key={p.id}
                  {...{ peg: p, x, base, foot, onPick }}
                  look={p.id === first ? 'first' : p.id === second ? 'second' : ''}
                />
              ))}
          </g>
        );
      })}
      <XTicks x={x} y={foot + 10} label="median by mass, d50, µm" labelY={foot + 30} middle={width / 2} count={6} />
    </>
  );
}

type PegMarkProps = {
  peg: Peg;
  x: (um: number) => number;
  base: number;
  foot: number;
  look: string;
  onPick: (id: string) => void;
};

function PegMark({ peg, x, base, foot, look, onPick }: PegMarkProps) {
  const pick = () => onPick(peg.id);
  return (
    <g
      className={classes.peg}
      data-look={look}
      role="button"
      tabIndex={0}
      aria-pressed={look !== ''}
      aria-label={`${peg.name}: median ${fixed(peg.d50_um, 0)} µm, ${fixed(peg.low_um, 0)} to ${fixed(peg.high_um, 0)}`}
      onClick={pick}
      onKeyDown={(e) => {
        if (e.key !== 'Enter' && e.key !== ' ') return;
        e.preventDefault();
        pick();
      }}
    >
      {look && <line className={classes.drop} x1={x(peg.d50_um)} x2={x(peg.d50_um)} y1={base} y2={foot - 4} />}
      <line className={chart.interval} x1={x(peg.low_um)} x2={x(peg.high_um)} y1={base} y2={base} />
      <rect x={x(peg.d50_um) - 15} y={base - 19} width={30} height={34} fill="transparent" />
      {look === 'second' ? (
        <circle className={classes.head} cx={x(peg.d50_um)} cy={base} r={6} />
      ) : (
        <rect className={classes.head} x={x(peg.d50_um) - 5.5} y={base - 5.5} width={11} height={11} />
      )}
      <text className={classes.setting} x={x(peg.d50_um)} y={base - 10} textAnchor="middle">
        {peg.setting}
      </text>
    </g>
  );
}
