import { Button } from '@mantine/core';
import { useElementSize } from '@mantine/hooks';
import { useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { fixed } from '../../ui/numbers';
import { hueOf, Penny } from '../../ui/Penny';
import classes from '../chart.module.css';
import { ticksOf } from '../Sized';
import { Dots } from './Dots';
import { Ghost, type Wish } from './Ghost';
import { type Ends, type Frame, lineOnChart, panned, type Scales, scalesOf, type View, zoomed } from './geometry';
import { Means, Spread } from './Means';
import { Places, Trails, Windows } from './Overlays';
import type { ChartMean, ChartPoint, OverlayShown, RatioLineShown, Trail, WindowShown } from './types';

export type { ChartMean, ChartPoint } from './types';

type StrengthExtractionProps = {
  points: ChartPoint[];
  /** Each setup's own coin, with its interval; its brews are then small dots. */
  means?: ChartMean[];
  lines: RatioLineShown[];
  windows?: WindowShown[];
  overlays?: OverlayShown[];
  trails?: Trail[];
  eyEnds: Ends;
  tdsEnds: Ends;
  yieldBasisLabel: string;
  height: number;
  /** The cup wished for, when there is one to drag. */
  wish?: Wish | null;
  onWish?: (wish: Wish) => void;
  /** A small one of many: no caption, no zoom. */
  small?: boolean;
};

const PENNY_PX = 24;
const DOT_PX = 4.5;
const COINS_AT_MOST = 30;
const MANY = 120;
const BRUSH_PX = 8;
const PAN = 0.1;

/** Extraction yield across, strength up; ellipses are 95 % intervals; lines are brews of equal ratio. Drag over a part to zoom into it. */
export function StrengthExtraction(props: StrengthExtractionProps) {
  const {
    points,
    means = [],
    lines,
    windows = [],
    overlays = [],
    trails = [],
    eyEnds,
    tdsEnds,
    yieldBasisLabel,
    height,
    small,
  } = props;
  const { ref, width } = useElementSize();
  const navigate = useNavigate();
  const [view, setView] = useState<View | null>(null);
  const [said, setSaid] = useState('');
  const whole: View = { ey: eyEnds, tds: tdsEnds };
  const shown = view ?? whole;
  const frame = useMemo<Frame>(
    () => ({ width, height, left: 44, right: 40, top: small ? 24 : 38, bottom: small ? 28 : 40 }),
    [width, height, small],
  );
  const [ey0, ey1] = shown.ey;
  const [tds0, tds1] = shown.tds;
  const scales = useMemo(() => scalesOf(frame, [ey0, ey1], [tds0, tds1]), [frame, ey0, ey1, tds0, tds1]);
  const many = points.length > MANY;
  const asDots = means.length > 0 || points.length > COINS_AT_MOST; // more coins than that cannot be told apart
  const say = (p: ChartPoint | null) => setSaid(p ? sayingOf(p, yieldBasisLabel) : '');
  const drawn = lines
    .map((line) => lineOnChart(line.points, line.brew_ratio, scales, shown.ey, shown.tds))
    .filter((x) => x !== null);
  const brush = useBrush(frame, scales, setView);
  const plot = {
    x: frame.left,
    y: frame.top,
    width: Math.max(0, width - frame.left - frame.right),
    height: height - frame.top - frame.bottom,
  };
  const clip = `plot-${Math.round(width)}-${height}-${points.length}`;
  return (
    <div ref={ref} className={classes.chart}>
      {width > 0 && (
        <>
          <svg
            className={classes.svg}
            height={height}
            viewBox={`0 0 ${width} ${height}`}
            role="group"
            aria-label={`Strength against ${yieldBasisLabel}, ${points.length} brews`}
          >
            <clipPath id={clip}>
              <rect {...plot} />
            </clipPath>
            <rect
              {...plot}
              className={classes.plot}
              tabIndex={small ? -1 : 0}
              role="application"
              aria-label="Plot: plus and minus zoom, arrow keys move, 0 shows the whole"
              {...(small ? {} : brush.handlers)}
              onKeyDown={(e) => {
                const next = keyed(e.key, shown, whole);
                if (next === undefined || small) return;
                e.preventDefault();
                setView(next);
              }}
            />
            <g clipPath={`url(#${clip})`} className={classes.through}>
              <Windows windows={windows} scales={scales} onSay={setSaid} />
              <Places overlays={overlays} frame={frame} scales={scales} onSay={setSaid} />
            </g>
            {drawn.map((line) => (
              <g key={line.label} aria-hidden className={classes.through}>
                <path className={classes.ratio} d={line.path} />
                <text className={classes.ratioLabel} x={line.labelX} y={line.labelY} textAnchor={line.anchor}>
                  {line.label}
                </text>
              </g>
            ))}
            <Axes frame={frame} scales={scales} yieldBasisLabel={yieldBasisLabel} small={small} />
            <g clipPath={`url(#${clip})`}>
              {!many && !asDots && points.map((p) => <Spread key={p.key} of={p} scales={scales} />)}
              {!many &&
                points.map((p) => (
                  // biome-ignore lint/a11y/noStaticElementInteractions: its role is a link where it leads somewhere, else a picture
                  <g
                    key={p.key}
                    className={classes.point}
                    data-aside={p.aside || undefined}
                    role={p.to ? 'link' : 'img'}
                    tabIndex={0}
                    aria-label={sayingOf(p, yieldBasisLabel)}
                    transform={`translate(${scales.x(p.ey.value) - (asDots ? 0 : PENNY_PX / 2)} ${scales.y(p.tds.value) - (asDots ? 0 : PENNY_PX / 2)})`}
                    onFocus={() => say(p)}
                    onPointerEnter={() => say(p)}
                    onClick={() => p.to && navigate(p.to)}
                    onKeyDown={(e) => e.key === 'Enter' && p.to && navigate(p.to)}
                  >
                    {asDots ? (
                      <circle className={classes.dot} r={DOT_PX} style={{ fill: hueOf(p.letter) }} />
                    ) : (
                      <Penny stamp={p.letter} size={PENNY_PX} label={p.label} />
                    )}
                    {p.liked !== undefined && (
                      <text className={classes.liked} x={PENNY_PX + 1} y={6}>
                        {p.liked}
                      </text>
                    )}
                  </g>
                ))}
              <Trails trails={trails} scales={scales} />
              <Means means={means} scales={scales} yieldBasisLabel={yieldBasisLabel} onSay={setSaid} />
              {brush.box && <rect className={classes.brush} {...brush.box} />}
            </g>
            {props.wish && props.onWish && (
              <Ghost wish={props.wish} scales={scales} eyEnds={shown.ey} tdsEnds={shown.tds} onMove={props.onWish} />
            )}
            {points.length === 0 && (
              <text className={classes.empty} x={width / 2} y={height / 2} textAnchor="middle">
                A brew stands here once it has a reading and a beverage mass.
              </text>
            )}
          </svg>
          {many && (
            <Dots points={points} frame={frame} scales={scales} onSay={say} onOpen={(p) => p.to && navigate(p.to)} />
          )}
          {!small && (
            <div className={classes.below}>
              <p className={classes.said} aria-live="polite">
                {said || 'Drag over a part to zoom into it. A mark says more when pointed at.'}
              </p>
              <Button.Group>
                <Button
                  size="compact-sm"
                  variant="default"
                  aria-label="Zoom in"
                  onClick={() => setView(zoomed(shown, whole, 0.6))}
                >
                  +
                </Button>
                <Button
                  size="compact-sm"
                  variant="default"
                  aria-label="Zoom out"
                  disabled={!view}
                  onClick={() => setView(outwards(zoomed(shown, whole, 1 / 0.6), whole))}
                >
                  −
                </Button>
                <Button size="compact-sm" variant="default" disabled={!view} onClick={() => setView(null)}>
                  Whole
                </Button>
              </Button.Group>
            </div>
          )}
        </>
      )}
    </div>
  );
}

function sayingOf(p: ChartPoint, yieldBasisLabel: string): string {
  const numbers = `${fixed(p.tds.value)} % TDS (${fixed(p.tds.low)} to ${fixed(p.tds.high)}), ${fixed(p.ey.value, 1)} % ${yieldBasisLabel} (${fixed(p.ey.low, 1)} to ${fixed(p.ey.high, 1)})`;
  return `${p.label}: ${numbers}${p.more ? `. ${p.more}` : ''}`;
}

const outwards = (view: View, whole: View): View | null =>
  view.ey[0] <= whole.ey[0] && view.ey[1] >= whole.ey[1] ? null : view;

/** What a key does to the view; undefined when it is not one of ours. */
function keyed(key: string, shown: View, whole: View): View | null | undefined {
  switch (key) {
    case '+':
    case '=':
      return zoomed(shown, whole, 0.6);
    case '-':
      return outwards(zoomed(shown, whole, 1 / 0.6), whole);
    case '0':
      return null;
    case 'ArrowLeft':
      return panned(shown, whole, { ey: -PAN, tds: 0 });
    case 'ArrowRight':
      return panned(shown, whole, { ey: PAN, tds: 0 });
    case 'ArrowUp':
      return panned(shown, whole, { ey: 0, tds: PAN });
    case 'ArrowDown':
      return panned(shown, whole, { ey: 0, tds: -PAN });
    default:
      return undefined;
  }
}

/** A rectangle drawn with the pointer becomes what is in view. */
function useBrush(frame: Frame, scales: Scales, onView: (view: View) => void) {
  const start = useRef<[number, number] | null>(null);
  const [box, setBox] = useState<{ x: number; y: number; width: number; height: number } | null>(null);
  const at = (e: React.PointerEvent): [number, number] => {
    const edge = (e.currentTarget as SVGElement).ownerSVGElement!.getBoundingClientRect();
    return [
      Math.min(frame.width - frame.right, Math.max(frame.left, e.clientX - edge.left)),
      Math.min(frame.height - frame.bottom, Math.max(frame.top, e.clientY - edge.top)),
    ];
  };
  return {
    box,
    handlers: {
      onPointerDown: (e: React.PointerEvent) => {
        if (e.button !== 0 || e.pointerType === 'touch') return; // a finger scrolls the page
        start.current = at(e);
        (e.currentTarget as SVGElement).setPointerCapture(e.pointerId);
      },
      onPointerMove: (e: React.PointerEvent) => {
        if (!start.current) return;
        const [x, y] = at(e);
        const [x0, y0] = start.current;
        setBox({ x: Math.min(x, x0), y: Math.min(y, y0), width: Math.abs(x - x0), height: Math.abs(y - y0) });
      },
      onPointerUp: () => {
        start.current = null;
        setBox(null);
        if (!box || box.width < BRUSH_PX || box.height < BRUSH_PX) return;
        onView({
          ey: [scales.x.invert(box.x), scales.x.invert(box.x + box.width)],
          tds: [scales.y.invert(box.y + box.height), scales.y.invert(box.y)],
        });
      },
    },
  };
}

type AxesProps = { frame: Frame; scales: Scales; yieldBasisLabel: string; small: boolean | undefined };

function Axes({ frame, scales, yieldBasisLabel, small }: AxesProps) {
  const base = frame.height - frame.bottom;
  return (
    <g aria-hidden>
      {ticksOf(scales.x, small ? 4 : 8).map(({ at, said }) => (
        <text key={at} className={classes.tick} x={scales.x(at)} y={base + 16} textAnchor="middle">
          {said}
        </text>
      ))}
      {ticksOf(scales.y, small ? 4 : 7).map(({ at, said }) => (
        <text key={at} className={classes.tick} x={frame.left - 7} y={scales.y(at) + 4} textAnchor="end">
          {said}
        </text>
      ))}
      {!small && (
        <>
          <text
            className={classes.axis}
            x={(frame.left + frame.width - frame.right) / 2}
            y={frame.height - 6}
            textAnchor="middle"
          >
            {`${yieldBasisLabel}, % of the dose`}
          </text>
          <text className={classes.axis} x={4} y={12}>
            strength, % TDS
          </text>
        </>
      )}
    </g>
  );
}
