import { useEffect, useRef, useState } from 'react';
import { LOOSE, rimOf } from '../../ui/Penny';
import classes from '../chart.module.css';
import type { Frame, Scales } from './geometry';
import type { ChartPoint } from './types';

const RADIUS = 5;
const REACH_PX = 14;

type DotsProps = {
  points: ChartPoint[];
  frame: Frame;
  scales: Scales;
  onSay: (point: ChartPoint | null) => void;
  onOpen: (point: ChartPoint) => void;
};

/** Thousands of brews on one canvas; the nearest one to the pointer is said, arrow keys step through them by yield. */
export function Dots({ points, frame, scales, onSay, onOpen }: DotsProps) {
  const ref = useRef<HTMLCanvasElement>(null);
  const [at, setAt] = useState(-1);
  useEffect(() => {
    const canvas = ref.current;
    if (!canvas) return;
    const dense = window.devicePixelRatio || 1;
    const [wide, high] = [Math.round(frame.width * dense), Math.round(frame.height * dense)];
    if (canvas.width !== wide || canvas.height !== high) [canvas.width, canvas.height] = [wide, high];
    const pen = canvas.getContext('2d');
    if (!pen) return;
    pen.setTransform(dense, 0, 0, dense, 0, 0);
    draw(pen, points, frame, scales, getComputedStyle(canvas));
  }, [points, frame, scales]);
  const nearest = (x: number, y: number) => {
    let best: ChartPoint | null = null;
    let least = REACH_PX ** 2;
    for (const p of points) {
      const far = (scales.x(p.ey.value) - x) ** 2 + (scales.y(p.tds.value) - y) ** 2;
      if (far < least) [best, least] = [p, far];
    }
    return best;
  };
  const under = (event: React.PointerEvent | React.MouseEvent) => {
    const box = ref.current!.getBoundingClientRect();
    return nearest(event.clientX - box.left, event.clientY - box.top);
  };
  const step = (by: number) => {
    const sorted = [...points].sort((a, b) => a.ey.value - b.ey.value);
    const next = Math.min(sorted.length - 1, Math.max(0, at + by));
    setAt(next);
    onSay(sorted[next] ?? null);
  };
  return (
    <canvas
      ref={ref}
      className={classes.canvas}
      style={{ width: frame.width, height: frame.height }}
      tabIndex={0}
      role="img"
      aria-label={`${points.length} brews; left and right arrow step through them by yield`}
      onPointerMove={(e) => onSay(under(e))}
      onClick={(e) => {
        const found = under(e);
        if (found) onOpen(found);
      }}
      onKeyDown={(e) => {
        const by = { ArrowRight: 1, ArrowLeft: -1 }[e.key];
        if (!by) return;
        e.preventDefault();
        e.stopPropagation();
        step(by * (e.shiftKey ? 20 : 1));
      }}
    />
  );
}

function draw(
  pen: CanvasRenderingContext2D,
  points: ChartPoint[],
  frame: Frame,
  scales: Scales,
  looks: CSSStyleDeclaration,
) {
  pen.clearRect(0, 0, frame.width, frame.height);
  pen.save();
  pen.beginPath();
  pen.rect(frame.left, frame.top, frame.width - frame.left - frame.right, frame.height - frame.top - frame.bottom);
  pen.clip();
  pen.lineWidth = 1.8;
  pen.fillStyle = looks.getPropertyValue('--coin-face');
  for (const [hue, own] of inViewByHue(points, frame, scales)) {
    pen.strokeStyle = looks.getPropertyValue(hue);
    pen.beginPath();
    for (const [x, y] of own) {
      pen.moveTo(x + RADIUS, y);
      pen.arc(x, y, RADIUS, 0, 2 * Math.PI);
    }
    pen.fill();
    pen.stroke();
  }
  pen.fillStyle = looks.getPropertyValue('--ink');
  pen.font = `600 11px ${looks.getPropertyValue('--mono')}`;
  for (const p of points) {
    if (p.liked !== undefined) pen.fillText(String(p.liked), scales.x(p.ey.value) + 8, scales.y(p.tds.value) - 6);
  }
  pen.restore();
}

/** One path a hue: thousands of dots in a few strokes, those out of view left out. */
function inViewByHue(points: ChartPoint[], frame: Frame, scales: Scales): Map<string, [number, number][]> {
  const out = new Map<string, [number, number][]>();
  const [left, right] = [frame.left - RADIUS, frame.width - frame.right + RADIUS];
  const [top, bottom] = [frame.top - RADIUS, frame.height - frame.bottom + RADIUS];
  for (const p of points) {
    const x = scales.x(p.ey.value);
    const y = scales.y(p.tds.value);
    if (x < left || x > right || y < top || y > bottom) continue;
    const hue = p.letter === LOOSE ? '--ink-3' : `--setup-${rimOf(p.letter).hue}`;
    const own = out.get(hue);
    if (own) own.push([x, y]);
    else out.set(hue, [[x, y]]);
  }
  return out;
}
