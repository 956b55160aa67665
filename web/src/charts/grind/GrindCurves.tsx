import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import { fixed } from '../../ui/numbers';
import chart from '../chart.module.css';
import { Sized, YTicks } from '../Sized';
import classes from './Grind.module.css';
import { bandPath, type CurvePoint, linePath, movedEnd, scalesOf } from './geometry';

type Curve = { id: string; name: string; apertures_um: number[]; curve: CurvePoint[] };
type Band = { from_um: number; to_um: number };

const HEIGHT = 316;
const LEFT = 44;
const RIGHT = 14;
const BOTTOM = 46;
const TOP = 12;
const KEYS: Record<string, number> = { ArrowLeft: -10, ArrowRight: 10, PageDown: -50, PageUp: 50 };

type GrindCurvesProps = {
  curves: Curve[];
  first: string;
  second: string;
  band: Band;
  onBand: (band: Band) => void;
};

/** Share finer against size: the two compared with their replicates' band, the rest behind; the band in question is moved by its ends. */
export function GrindCurves(props: GrindCurvesProps) {
  return (
    <Sized height={HEIGHT} label="Share finer than each size, per cent">
      {(width) => <Drawn {...props} width={width} />}
    </Sized>
  );
}

function Drawn({ curves, first, second, band, onBand, width }: GrindCurvesProps & { width: number }) {
  const apertures = curves.flatMap((c) => c.apertures_um);
  const box = { left: LEFT, right: width - RIGHT, top: TOP, bottom: HEIGHT - BOTTOM };
  const { x, y } = scalesOf([...apertures, band.from_um, band.to_um], box);
  const mine = curves.find((c) => c.id === first) ?? curves[0]!;
  const limits = [mine.apertures_um[0]!, mine.apertures_um.at(-1)!] as const;
  const marks = [...new Set(mine.apertures_um)];
  const behind = curves.filter((c) => c.id !== first && c.id !== second);
  const front = [
    { curve: curves.find((c) => c.id === second), look: 'second' },
    { curve: curves.find((c) => c.id === first), look: 'first' },
  ] as const;
  return (
    <>
      <rect
        className={chart.plot}
        x={LEFT}
        y={TOP}
        width={Math.max(0, width - LEFT - RIGHT)}
        height={box.bottom - TOP}
      />
      <rect
        className={classes.band}
        x={x(band.from_um)}
        y={TOP}
        width={Math.max(0, x(band.to_um) - x(band.from_um))}
        height={box.bottom - TOP}
      />
      <YTicks y={y} left={LEFT} right={width - RIGHT} count={5} />
      <g aria-hidden>
        {marks.map((a) => (
          <g key={a}>
            <line className={chart.grid} x1={x(a)} x2={x(a)} y1={box.bottom} y2={box.bottom + 5} />
            <text className={chart.tick} x={x(a)} y={box.bottom + 18} textAnchor="middle">
              {a}
            </text>
          </g>
        ))}
        <text className={chart.axis} x={(LEFT + width - RIGHT) / 2} y={HEIGHT - 6} textAnchor="middle">
          size, µm (log)
        </text>
        <line className={classes.half} x1={LEFT} x2={width - RIGHT} y1={y(50)} y2={y(50)} />
      </g>
      {behind.map((c) => (
        <path key={c.id} className={classes.behind} d={linePath(c.curve, x, y)} />
      ))}
      {front.map(
        ({ curve, look }) =>
          curve && (
            <g key={look} role="img" aria-label={curve.name} data-look={look} className={classes.front}>
              <path className={classes.spread} d={bandPath(curve.curve, x, y)} />
              <path className={classes.line} d={linePath(curve.curve, x, y)} />
              {curve.curve.map((p) =>
                look === 'first' ? (
                  <rect
                    key={p.aperture_um}
                    className={classes.mark}
                    x={x(p.aperture_um) - 4}
                    y={y(p.finer_pct) - 4}
                    width={8}
                    height={8}
                  />
                ) : (
                  <circle
                    key={p.aperture_um}
                    className={classes.mark}
                    cx={x(p.aperture_um)}
                    cy={y(p.finer_pct)}
                    r={4.5}
                  />
                ),
              )}
            </g>
          ),
      )}
      <End end="from_um" {...{ band, onBand, x, limits, box }} />
      <End end="to_um" {...{ band, onBand, x, limits, box }} />
    </>
  );
}

type EndProps = {
  end: 'from_um' | 'to_um';
  band: Band;
  onBand: (band: Band) => void;
  x: ReturnType<typeof scalesOf>['x'];
  limits: readonly [number, number];
  box: { top: number; bottom: number };
};

/** One end of the band: dragged, or moved by arrow keys in tens. */
function End({ end, band, onBand, x, limits, box }: EndProps) {
  const held = useRef(false);
  const at = band[end];
  const drag = (e: PointerEvent<SVGGElement>) => {
    if (!held.current) return;
    const svg = e.currentTarget.ownerSVGElement!;
    const place = svg.getBoundingClientRect();
    onBand(movedEnd(band, end, x.invert(((e.clientX - place.left) * svg.viewBox.baseVal.width) / place.width), limits));
  };
  const key = (e: KeyboardEvent) => {
    const by = KEYS[e.key];
    if (!by) return;
    e.preventDefault();
    onBand(movedEnd(band, end, at + by, limits));
  };
  return (
    <g
      className={classes.end}
      role="slider"
      tabIndex={0}
      aria-label={end === 'from_um' ? 'Band from' : 'Band to'}
      aria-valuenow={at}
      aria-valuemin={limits[0]}
      aria-valuemax={limits[1]}
      aria-valuetext={`${fixed(at, 0)} µm`}
      onKeyDown={key}
      onPointerDown={(e) => {
        held.current = true;
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={drag}
      onPointerUp={() => {
        held.current = false;
      }}
    >
      <rect x={x(at) - 14} y={box.top} width={28} height={box.bottom - box.top} fill="transparent" />
      <line x1={x(at)} x2={x(at)} y1={box.top} y2={box.bottom} />
      <path d={`M${x(at) - 7} ${box.top}h14v14l-7 7l-7 -7z`} />
      <text
        x={x(at) + (end === 'from_um' ? -11 : 11)}
        y={box.top + 14}
        textAnchor={end === 'from_um' ? 'end' : 'start'}
      >
        {fixed(at, 0)}
      </text>
    </g>
  );
}
