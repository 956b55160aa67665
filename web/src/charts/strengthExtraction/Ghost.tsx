import { useRef } from 'react';
import { fixed } from '../../ui/numbers';
import classes from '../chart.module.css';
import type { Ends, Scales } from './geometry';

export type Wish = { ey: number; tds: number };

const RADIUS = 13;
const STEP = { ey: 0.1, tds: 0.01 };
const MORE = 5;

type GhostProps = { wish: Wish; scales: Scales; eyEnds: Ends; tdsEnds: Ends; onMove: (wish: Wish) => void };

/** The cup wished for: dragged, or moved with the arrow keys. */
export function Ghost({ wish, scales, eyEnds, tdsEnds, onMove }: GhostProps) {
  const held = useRef(false);
  const to = (ey: number, tds: number) =>
    onMove({
      ey: Math.round(10 * Math.min(eyEnds[1], Math.max(eyEnds[0], ey))) / 10,
      tds: Math.round(100 * Math.min(tdsEnds[1], Math.max(tdsEnds[0], tds))) / 100,
    });
  return (
    <g
      className={classes.ghost}
      transform={`translate(${scales.x(wish.ey)} ${scales.y(wish.tds)})`}
      tabIndex={0}
      role="slider"
      aria-label="Wished cup"
      aria-valuenow={wish.tds}
      aria-valuetext={`${fixed(wish.tds)} % TDS at ${fixed(wish.ey, 1)} % yield`}
      onPointerDown={(e) => {
        e.stopPropagation();
        held.current = true;
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={(e) => {
        if (!held.current) return;
        const box = e.currentTarget.ownerSVGElement!.getBoundingClientRect();
        to(scales.x.invert(e.clientX - box.left), scales.y.invert(e.clientY - box.top));
      }}
      onPointerUp={() => {
        held.current = false;
      }}
      onKeyDown={(e) => {
        const by = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key];
        if (!by) return;
        e.preventDefault();
        e.stopPropagation();
        const times = e.shiftKey ? MORE : 1;
        to(wish.ey + by[0]! * STEP.ey * times, wish.tds + by[1]! * STEP.tds * times);
      }}
    >
      <circle className={classes.ghostFace} r={RADIUS} />
      <path className={classes.ghostCross} d="M-6 0H6M0 -6V6" />
    </g>
  );
}
