import { useEffect, useRef, useState } from 'react';
import { Penny } from '../../ui/Penny';
import type { ScoreSent, Sheet } from './queries';
import classes from './Sheet.module.css';
import { type Answers, cell } from './useSheet';

type Attribute = Sheet['attributes'][number];

type CupProps = {
  cup: Sheet['cups'][number];
  attributes: Attribute[];
  answers: Answers;
  locked: boolean;
  isLast: boolean;
  onScore: (attribute: ScoreSent['attribute'], value: number | null, text?: string) => void;
  onBack: () => void;
  onNext: () => void;
};

/** One coded cup: sliders that say nothing until touched, nine steps of liking, words. */
export function Cup({ cup, attributes, answers, locked, isLast, onScore, onBack, onNext }: CupProps) {
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    window.scrollTo(0, 0);
    heading.current?.focus();
  }, []);
  const value = (code: string) => answers[cell(cup.code, code)]?.value ?? null;
  return (
    <>
      <div className={classes.cupHead}>
        <Penny stamp={cup.code} size={64} />
        <div>
          <h1 ref={heading} tabIndex={-1}>
            Cup {cup.code}
          </h1>
          <p className="quiet">{cup.label ?? 'Sip, then score. Spit if you like.'}</p>
        </div>
      </div>
      <fieldset className={classes.fields} disabled={locked}>
        <legend className="sr-only">Scores of cup {cup.code}</legend>
        {attributes
          .filter((a) => a.code !== 'liking')
          .map((a) => (
            <Intensity
              key={a.code}
              attribute={a}
              value={value(a.code)}
              onScore={(v) => onScore(a.code as ScoreSent['attribute'], v)}
            />
          ))}
        <Liking value={value('liking')} onScore={(v) => onScore('liking', v)} />
        <Words text={answers[cell(cup.code, 'words')]?.text ?? ''} onWords={(text) => onScore('words', null, text)} />
      </fieldset>
      <div className={classes.bottom}>
        <button type="button" className={classes.secondary} onClick={onBack}>
          Back
        </button>
        <button type="button" className={classes.primary} onClick={onNext}>
          {isLast ? 'Done' : 'Next cup'}
        </button>
      </div>
    </>
  );
}

/** An untouched slider is not scored, never its middle. */
function Intensity({
  attribute,
  value,
  onScore,
}: {
  attribute: Attribute;
  value: number | null;
  onScore: (value: number | null) => void;
}) {
  const middle = (attribute.low + attribute.high) / 2;
  const [dragged, setDragged] = useState<number | null>(null);
  const shown = dragged ?? value;
  const settle = (next: number) => {
    setDragged(null);
    if (next !== value) onScore(next);
  };
  return (
    <div className={classes.intensity}>
      <div className={classes.row}>
        <label htmlFor={`s-${attribute.code}`}>{attribute.label}</label>
        {shown === null ? (
          <span className={classes.unscored}>not scored</span>
        ) : (
          <span className={classes.scored}>
            {shown}
            <button
              type="button"
              className={classes.clear}
              onClick={() => onScore(null)}
              aria-label={`Clear ${attribute.label.toLowerCase()}`}
            >
              clear
            </button>
          </span>
        )}
      </div>
      <input
        id={`s-${attribute.code}`}
        type="range"
        className={classes.slider}
        data-untouched={shown === null}
        min={attribute.low}
        max={attribute.high}
        step={attribute.step}
        value={shown ?? middle}
        aria-valuetext={shown === null ? 'not scored' : `${shown} of ${attribute.high}`}
        onChange={(e) => setDragged(Number(e.currentTarget.value))}
        onPointerUp={(e) => settle(Number(e.currentTarget.value))}
        onKeyUp={(e) => e.key !== 'Tab' && e.key !== 'Shift' && settle(Number(e.currentTarget.value))}
        onBlur={() => dragged !== null && settle(dragged)}
      />
      <div className={classes.ends} aria-hidden>
        <span>{attribute.low_word}</span>
        <span>{attribute.high_word}</span>
      </div>
    </div>
  );
}

const STEPS = [1, 2, 3, 4, 5, 6, 7, 8, 9] as const;

function Liking({ value, onScore }: { value: number | null; onScore: (value: number | null) => void }) {
  return (
    <div>
      <div className={classes.row}>
        <b id="liking">Liking</b>
        {value === null ? (
          <span className={classes.unscored}>not scored</span>
        ) : (
          <span className={classes.scored}>{value} of 9</span>
        )}
      </div>
      <div className={classes.liking} role="radiogroup" aria-labelledby="liking">
        {STEPS.map((step) => (
          <label key={step} className={classes.step}>
            <input type="radio" name="liking" checked={value === step} onChange={() => onScore(step)} />
            <span>{step}</span>
          </label>
        ))}
      </div>
      <div className={classes.ends} aria-hidden>
        <span>1 dislike extremely</span>
        <span>9 like extremely</span>
      </div>
    </div>
  );
}

function Words({ text, onWords }: { text: string; onWords: (text: string) => void }) {
  const [typed, setTyped] = useState(text);
  return (
    <label className={classes.words}>
      Words, if any come
      <textarea
        rows={2}
        maxLength={500}
        value={typed}
        onChange={(e) => setTyped(e.currentTarget.value)}
        onBlur={() => typed !== text && onWords(typed)}
      />
    </label>
  );
}
