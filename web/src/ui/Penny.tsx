import classes from './Penny.module.css';

type PennyProps = {
  /** A setup's letter, or a blind cup's three-digit code. */
  stamp: string;
  /** Diameter, px. */
  size?: number;
  /** Read out in place of the stamp; '' where words beside it say it. */
  label?: string;
};

const PATTERNS = ['solid', 'reeded', 'double', 'dotted', 'notched', 'hexagon'] as const;
type Pattern = (typeof PATTERNS)[number];

/** The stamp of a brew that belongs to no trial: a plain edge and no hue. */
export const LOOSE = '•';

/** Which rim and hue a letter has; after F they repeat. */
export function rimOf(letter: string): { pattern: Pattern; hue: string } {
  const i = Math.max(0, letter.charCodeAt(0) - 65) % PATTERNS.length;
  return { pattern: PATTERNS[i]!, hue: 'abcdef'.charAt(i) };
}

/** A setup's colour on the scheme's own ground (charts, text). */
export const hueOf = (letter: string) => (letter === LOOSE ? 'var(--ink-3)' : `var(--setup-${rimOf(letter).hue})`);

const HEXAGON = '50,10 84.6,30 84.6,70 50,90 15.4,70 15.4,30';

function Rim({ pattern }: { pattern: Pattern }) {
  switch (pattern) {
    case 'solid':
      return <circle cx="50" cy="50" r="38" strokeWidth="8" />;
    case 'reeded':
      return <circle cx="50" cy="50" r="38" strokeWidth="10" strokeDasharray="8 5.27" />;
    case 'double':
      return (
        <>
          <circle cx="50" cy="50" r="40" strokeWidth="4" />
          <circle cx="50" cy="50" r="32" strokeWidth="4" />
        </>
      );
    case 'dotted':
      return <circle cx="50" cy="50" r="38" strokeWidth="7.5" strokeLinecap="round" strokeDasharray="0.01 11.93" />;
    case 'notched':
      return <circle cx="50" cy="50" r="38" strokeWidth="9" strokeDasharray="33 6.8" />;
    case 'hexagon':
      return <polygon points={HEXAGON} strokeWidth="7" strokeLinejoin="round" />;
  }
}

/** The round brass token: a setup's letter on its own rim, or on its blind side a code and a plain reeded edge. */
export function Penny({ stamp, size = 44, label }: PennyProps) {
  const blind = stamp.length > 1 || stamp === LOOSE;
  const { pattern, hue } = rimOf(stamp);
  const called = stamp === LOOSE ? 'Loose brew' : blind ? `Cup ${stamp}` : `Setup ${stamp}`;
  return (
    <svg
      className={classes.penny}
      width={size}
      height={size}
      viewBox="0 0 100 100"
      {...(label === '' ? { 'aria-hidden': true } : { role: 'img', 'aria-label': label ?? called })}
    >
      <circle className={classes.face} cx="50" cy="50" r="48" />
      {blind ? (
        <circle className={classes.reed} cx="50" cy="50" r="41" strokeWidth="6" strokeDasharray="1.6 2.7" />
      ) : (
        <g className={classes.rim} style={{ stroke: `var(--coin-${hue})` }}>
          <Rim pattern={pattern} />
        </g>
      )}
      <text className={stamp.length > 1 ? classes.code : classes.letter} x="50" y="50" dy="0.355em">
        {stamp}
      </text>
    </svg>
  );
}
