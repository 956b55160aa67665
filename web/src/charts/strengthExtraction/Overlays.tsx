import classes from '../chart.module.css';
import type { Frame, Scales } from './geometry';
import type { OverlayShown, Trail, WindowShown } from './types';

type Saying = { onSay: (about: string) => void };

/** Named windows: their edge is their school's, and their words are told on hover and focus. */
export function Windows({ windows, scales, onSay }: { windows: WindowShown[]; scales: Scales } & Saying) {
  return windows.map((w, i) => {
    const x = scales.x(w.ey_pct[0]!);
    const bottom = scales.y(w.tds_pct[0]!);
    return (
      <g key={w.code} data-window={w.code}>
        <rect
          className={classes.window}
          style={{ strokeDasharray: DASHES[i % DASHES.length] }}
          x={x}
          y={scales.y(w.tds_pct[1]!)}
          width={scales.x(w.ey_pct[1]!) - x}
          height={bottom - scales.y(w.tds_pct[1]!)}
        />
        <text
          className={classes.windowLabel}
          x={x + 6}
          y={scales.y(w.tds_pct[1]!) + 16}
          tabIndex={0}
          role="img"
          aria-label={`${w.label}: ${w.about}`}
          onFocus={() => onSay(w.about)}
          onPointerEnter={() => onSay(w.about)}
        >
          {w.label}
        </text>
      </g>
    );
  });
}

const DASHES = ['4 3', '8 3', '2 3'];

/** Words by region, each at its own yield and strength: soft, no edge, no judgement. */
export function Places({
  overlays,
  frame,
  scales,
  onSay,
}: { overlays: OverlayShown[]; frame: Frame; scales: Scales } & Saying) {
  return overlays.map((o) => (
    <g
      key={o.code}
      data-overlay={o.code}
      tabIndex={0}
      role="img"
      aria-label={`${o.label}: ${o.about} ${o.places.map((p) => p.words).join('; ')}`}
      className={classes.overlay}
      onFocus={() => onSay(o.about)}
      onPointerEnter={() => onSay(o.about)}
    >
      {o.places.map((p) => {
        const x = scales.x(p.ey_pct);
        const y = scales.y(p.tds_pct);
        const wide = scales.x(p.ey_pct + p.ey_half_pct) - x;
        const high = y - scales.y(p.tds_pct + p.tds_half_pct);
        if (!inView(x, y, wide, high, frame)) return null;
        return (
          <g key={p.words}>
            <ellipse className={classes.soft} cx={x} cy={y} rx={wide} ry={high} />
            <WordsAt words={p.words} {...inside(x, y, frame)} />
          </g>
        );
      })}
    </g>
  ));
}

/** Any of it: what lies elsewhere is not drawn to the edge. */
const inView = (x: number, y: number, wide: number, high: number, f: Frame) =>
  x + wide > f.left && x - wide < f.width - f.right && y + high > f.top && y - high < f.height - f.bottom;

const ROOM_PX = 70;

/** Words of a region that reaches over the edge stay in the plot. */
function inside(x: number, y: number, frame: Frame): { x: number; y: number; anchor: 'start' | 'middle' | 'end' } {
  const [left, right] = [frame.left + 6, frame.width - frame.right - 6];
  const tidy = Math.min(frame.height - frame.bottom - 40, Math.max(frame.top + 40, y - 4));
  if (x < left + ROOM_PX) return { x: left, y: tidy, anchor: 'start' };
  return x > right - ROOM_PX ? { x: right, y: tidy, anchor: 'end' } : { x, y: tidy, anchor: 'middle' };
}

const LONGEST = 22;

/** Two lines where one would run into its neighbour. */
function WordsAt({ words, x, y, anchor }: { words: string; x: number; y: number; anchor: 'start' | 'middle' | 'end' }) {
  return (
    <text className={classes.words} x={x} y={y} textAnchor={anchor}>
      {broken(words).map((line, i) => (
        <tspan key={line} x={x} dy={i ? 14 : 0}>
          {line}
        </tspan>
      ))}
    </text>
  );
}

function broken(words: string): string[] {
  const lines = [''];
  for (const word of words.split(' ')) {
    const last = lines[lines.length - 1]!;
    if (last && last.length + word.length > LONGEST) lines.push(word);
    else lines[lines.length - 1] = last ? `${last} ${word}` : word;
  }
  return lines;
}

/** From version to version of a recipe: where each lies. */
export function Trails({ trails, scales }: { trails: Trail[]; scales: Scales }) {
  return trails.map((t) => (
    <g key={t.name} role="img" aria-label={`${t.name}, version ${t.versions.join(' to ')}`}>
      <title>{`${t.name}, version ${t.versions.join(' → ')}`}</title>
      <polyline
        className={classes.trail}
        points={t.points.map(([ey, tds]) => `${scales.x(ey!)},${scales.y(tds!)}`).join(' ')}
      />
      {t.points.map(([ey, tds], i) => (
        <text
          key={t.versions[i]}
          className={classes.trailLabel}
          x={scales.x(ey!)}
          y={scales.y(tds!) - 14}
          textAnchor="middle"
        >{`v${t.versions[i]}`}</text>
      ))}
    </g>
  ));
}
