import { scaleLinear } from '@visx/scale';
import { fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { Sized, XTicks, YTicks } from '../Sized';

type Value = { setup: string; name: string; liking: number; cost: number; onFrontier: boolean };

const HEIGHT = 230;
const LEFT = 34;
const RIGHT = 24;
const BOTTOM = 42;
const COIN = 30;

/** Liking against what a cup costs; nobody beats those on the line. */
export function Frontier({ rows, unit, places }: { rows: Value[]; unit: string; places: number }) {
  return (
    <Sized height={HEIGHT} label={`Liking against ${unit}`}>
      {(width) => <Drawn rows={rows} unit={unit} places={places} width={width} />}
    </Sized>
  );
}

function Drawn({ rows, unit, places, width }: { rows: Value[]; unit: string; places: number; width: number }) {
  const costs = rows.map((r) => r.cost);
  const likings = rows.map((r) => r.liking);
  const spread = Math.max(...costs) - Math.min(...costs) || Math.max(0.2, Math.max(...costs) * 0.2);
  const x = scaleLinear<number>({
    domain: [Math.min(...costs) - 0.2 * spread, Math.max(...costs) + 0.2 * spread],
    range: [LEFT, Math.max(LEFT + 10, width - RIGHT)],
  });
  const y = scaleLinear<number>({
    domain: [Math.min(...likings) - 0.7, Math.max(...likings) + 0.7],
    range: [HEIGHT - BOTTOM, 10],
  });
  const front = rows.filter((r) => r.onFrontier).sort((a, b) => a.cost - b.cost);
  const steps = front.map((r, i) => (i ? `H${x(r.cost)}V${y(r.liking)}` : `M${x(r.cost)} ${y(r.liking)}`)).join('');
  return (
    <>
      <YTicks y={y} left={LEFT} right={width - RIGHT} />
      <XTicks
        x={x}
        y={HEIGHT - BOTTOM + 16}
        label={unit}
        labelY={HEIGHT - 4}
        middle={(LEFT + width - RIGHT) / 2}
        count={4}
      />
      <path d={steps} fill="none" stroke="var(--verdigris)" strokeWidth={2.5} />
      {rows.map((r) => (
        <svg
          key={r.setup}
          x={x(r.cost) - COIN / 2}
          y={y(r.liking) - COIN / 2}
          width={COIN}
          height={COIN}
          overflow="visible"
          opacity={r.onFrontier ? 1 : 0.6}
        >
          <Penny
            stamp={r.setup}
            size={COIN}
            label={`${r.name}: liking ${fixed(r.liking, 1)}, ${fixed(r.cost, places)} ${unit}`}
          />
        </svg>
      ))}
    </>
  );
}
