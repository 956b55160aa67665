import { UnstyledButton } from '@mantine/core';
import { useLocalStorage } from '@mantine/hooks';
import { Link } from 'react-router';
import { Term } from '../../ui/Term';
import classes from './Margin.module.css';
import { type Grade, type MarginCaveat, stationPath } from './queries';

const SHAPE_WORDS = { crack: 'crack', doubt: 'doubt', note: 'note' } as const;

/** Caveats are told apart by shape and word: a crack could fake the answer, a doubt widens it, a note is worth knowing. */
function Shape({ shape }: { shape: MarginCaveat['shape'] }) {
  return (
    <svg className={classes.shape} data-shape={shape} viewBox="0 0 16 16" aria-hidden>
      {shape === 'crack' && <path d="M2 2h12l-5 5h4L5 15l2-6H3z" />}
      {shape === 'doubt' && <path d="M8 1l7 7-7 7-7-7z" />}
      {shape === 'note' && <circle cx="8" cy="8" r="5.6" />}
    </svg>
  );
}

/** What follows a trial from Ask to Verdict: what is not controlled, not measured, off plan, each with its cure. */
type MarginProps = { trialId: string; caveats: MarginCaveat[]; grade: Grade | null };

export function Margin({ trialId, caveats, grade }: MarginProps) {
  const [folded, setFolded] = useLocalStorage({ key: 'penny.margin.folded', defaultValue: false });
  const nothing = !caveats.length && !grade;
  if (folded || nothing) {
    return (
      <aside className={classes.spine} aria-label="Margin: what weakens this trial">
        <UnstyledButton
          className={classes.unfold}
          disabled={nothing}
          aria-expanded={false}
          onClick={() => setFolded(false)}
        >
          <b className="num">{caveats.length}</b>
          <span className={classes.spineWord}>Margin{nothing ? ': nothing weakens this trial so far' : ''}</span>
          {worstOf(caveats) && <Shape shape={worstOf(caveats)!} />}
        </UnstyledButton>
      </aside>
    );
  }
  return (
    <aside className={classes.margin} aria-label="Margin: what weakens this trial">
      {grade && <Evidence grade={grade} />}
      <div className={classes.marginHead}>
        <h2>What could mislead you</h2>
        <UnstyledButton className={classes.fold} aria-expanded onClick={() => setFolded(true)}>
          Fold
        </UnstyledButton>
      </div>
      <p className="quiet small">{summary(caveats)}</p>
      <ul className={classes.list}>
        {caveats.map((c) => (
          <li key={`${c.code}-${c.field}`}>
            <Shape shape={c.shape} />
            <div>
              <h3>
                {c.title}{' '}
                <span className={classes.word}>
                  <Term of={c.shape === 'crack' ? 'crack' : 'doubt'}>{SHAPE_WORDS[c.shape]}</Term>
                </span>
              </h3>
              <p className={classes.text}>{c.text}</p>
              <Link className={classes.cure} to={`/trials/${trialId}/${stationPath(c.station)}`}>
                {c.cure}
              </Link>
            </div>
          </li>
        ))}
      </ul>
    </aside>
  );
}

const worstOf = (caveats: MarginCaveat[]) =>
  (['crack', 'doubt', 'note'] as const).find((s) => caveats.some((c) => c.shape === s));

const STEPS = [1, 2, 3, 4, 5];

/** Five steps, and the named rules behind every step that is missing. */
function Evidence({ grade }: { grade: Grade }) {
  const held = grade.reasons.filter((r) => r.cap === grade.step);
  return (
    <section className={classes.evidence} aria-labelledby="evidence">
      <h2 id="evidence">
        <Term of="design">{grade.so_far ? 'Design, on course for' : 'Design'}</Term>: {grade.design}
      </h2>
      <p className={classes.steps} role="img" aria-label={`${grade.step} of 5 steps`}>
        {STEPS.map((n) => (
          <span key={n} data-held={n <= grade.step} />
        ))}
      </p>
      {held.length > 0 && (
        <p className="quiet small">Limited by: {held.map((r) => lowerFirst(r.text.replace(/\.$/, ''))).join('; ')}.</p>
      )}
    </section>
  );
}

const lowerFirst = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);

function summary(caveats: MarginCaveat[]): string {
  if (!caveats.length) return 'Nothing weakens this trial so far.';
  const of = (shape: MarginCaveat['shape']) => caveats.filter((c) => c.shape === shape).length;
  const counted = (['crack', 'doubt', 'note'] as const)
    .filter((s) => of(s))
    .map((s) => `${of(s)} ${s}${of(s) > 1 ? 's' : ''}`);
  return counted.join(' · ');
}
